import { randomUUID } from 'node:crypto'
import { mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { EmporionError, firstIssueOf, messageOf } from '../../core/errors'
import { SHIPPED_TARGETS } from '../../core/fit/shipped'
import { targetSchema, type Target } from '../../core/fit/target'
import type { TargetView } from '../../contract/fit'

/** The folder in which a user's own targets lie, one JSON file each. */
export function targetsDir(dataDir: string): string {
  return join(dataDir, 'targets')
}

/** All targets: those that come with Emporion, then the user's own by name. Files that are none are reported. */
export async function listTargets(dataDir: string): Promise<{ targets: TargetView[], problems: string[] }> {
  const folder = targetsDir(dataDir)
  const problems: string[] = []
  const own: Target[] = []
  for (const name of (await readdir(folder).catch(() => [])).filter(file => file.endsWith('.json')).sort()) {
    const read = await readFile(join(folder, name), 'utf8').then(parseTarget).catch((thrown: unknown) => messageOf(thrown))
    if (typeof read === 'string') problems.push(`${join(folder, name)}: ${read}`)
    else if (!SHIPPED_TARGETS.some(({ id }) => id === read.id)) own.push(read)
  }
  return {
    targets: [...SHIPPED_TARGETS.map(target => ({ target, isOwn: false })), ...own.toSorted((a, b) => a.name.localeCompare(b.name)).map(target => ({ target, isOwn: true }))],
    problems,
  }
}

/** A target by its id or its name. @throws EmporionError `not-found` */
export async function findTarget(dataDir: string, asked: string): Promise<Target> {
  const wanted = asked.trim().toLowerCase()
  const { targets } = await listTargets(dataDir)
  const found = targets.find(({ target }) => target.id === wanted) ?? targets.find(({ target }) => target.name.toLowerCase() === wanted)
  if (!found) throw new EmporionError('not-found', { what: `There is no target "${asked}".`, next: `There are ${targets.map(({ target }) => target.id).join(', ')}.` })
  return found.target
}

/** Reads a target's JSON. @throws EmporionError `invalid` naming the first thing that is wrong */
export function parseTarget(text: string): Target {
  let json: unknown
  try {
    json = JSON.parse(text)
  }
  catch {
    throw new EmporionError('invalid', 'It is not valid JSON.')
  }
  const parsed = targetSchema.safeParse(json)
  if (parsed.success) return parsed.data
  throw new EmporionError('invalid', `This is not a valid target: ${firstIssueOf(parsed.error)}.`)
}

/** Keeps a target of the user's own. @throws EmporionError `refused` for the id of one that comes with Emporion */
export async function saveTarget(dataDir: string, target: Target): Promise<void> {
  refuseShipped(target.id)
  const folder = targetsDir(dataDir)
  await mkdir(folder, { recursive: true })
  const part = join(folder, `.${target.id}.${randomUUID().slice(0, 8)}.part`)
  await writeFile(part, `${JSON.stringify(target, null, 2)}\n`, { flush: true })
  await rename(part, join(folder, `${target.id}.json`))
}

export async function deleteTarget(dataDir: string, id: string): Promise<void> {
  refuseShipped(id)
  await rm(join(targetsDir(dataDir), `${id}.json`), { force: true })
}

function refuseShipped(id: string): void {
  const shipped = SHIPPED_TARGETS.find(target => target.id === id)
  if (shipped) throw new EmporionError('refused', { what: `"${shipped.name}" comes with Emporion and stays as it is.`, next: 'Make a copy under a name of its own.' })
}
