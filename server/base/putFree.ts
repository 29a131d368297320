import { link, open, readdir, rename, unlink } from 'node:fs/promises'
import { join } from 'node:path'

/** What a drive says that knows no links. */
const NO_LINKS = ['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'ENOSYS', 'EMLINK']

/**
 * Puts a file or folder into a folder of the same drive under the first name that is free there. Of several at once, in whatever
 * thread, each gets a name of its own, and nothing that is there is replaced.
 *
 * @param nameOf the first name to try, the second, and so on
 * @param taken names of the folder, as `namesIn` gives them, where they are known; the new one is added
 * @returns the name
 */
export async function putFree(from: string, target: string, nameOf: (n: number) => string, isFolder: boolean, taken?: Set<string>): Promise<string> {
  taken ??= await namesIn(target)
  for (let n = 1; ; n++) {
    const name = nameOf(n)
    if (taken.has(name.toLowerCase())) continue
    taken.add(name.toLowerCase())
    try {
      await (isFolder ? rename(from, join(target, name)) : putFile(from, join(target, name)))
      return name
    }
    catch (thrown) {
      if (!hasCode(thrown, 'EEXIST', 'ENOTEMPTY')) throw thrown
    }
  }
}

/** Names with a number from the second on. */
export function numbered(stem: string, ending = ''): (n: number) => string {
  return n => `${stem}${n > 1 ? ` ${n}` : ''}${ending}`
}

/** What a folder holds, in small letters: names that differ by their case alone are one on some drives. */
export async function namesIn(folder: string): Promise<Set<string>> {
  return new Set((await readdir(folder)).map(name => name.toLowerCase()))
}

/** To rename would replace what somebody has put there since the look at the folder. */
async function putFile(from: string, to: string): Promise<void> {
  try {
    await link(from, to)
  }
  catch (thrown) {
    if (!hasCode(thrown, ...NO_LINKS)) throw thrown
    // The name is taken by an empty file first.
    await (await open(to, 'wx')).close()
    try {
      return await rename(from, to)
    }
    catch (failed) {
      await unlink(to)
      throw failed
    }
  }
  await unlink(from)
}

function hasCode(thrown: unknown, ...codes: readonly string[]): boolean {
  return thrown instanceof Error && 'code' in thrown && codes.some(code => code === thrown.code)
}
