import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { beforeEach, expect, it } from 'vitest'
import { SHIPPED_TARGETS } from '../../core/fit/shipped'
import { freshFolder, put } from '../../tests/helpers/folder'
import { deleteTarget, findTarget, listTargets, parseTarget, saveTarget, targetsDir } from './targets'

let data: string
const shipped = SHIPPED_TARGETS[0]!
const own = { ...shipped, id: 'wheelhouse', name: 'Wheelhouse' }

beforeEach(() => {
  data = freshFolder()
})

it('own targets are kept as files, listed after those that ship, found by id or name, and deleted', async () => {
  await saveTarget(data, own)
  await saveTarget(data, { ...own, id: 'anchor', name: 'Anchor' })
  const { targets, problems } = await listTargets(data)
  expect(targets.slice(SHIPPED_TARGETS.length).map(({ target, isOwn }) => [target.id, isOwn])).toEqual([['anchor', true], ['wheelhouse', true]])
  expect(problems).toEqual([])
  expect((await findTarget(data, ' WHEELHOUSE ')).name).toBe('Wheelhouse')
  expect((await findTarget(data, shipped.name)).id).toBe(shipped.id)
  await deleteTarget(data, 'wheelhouse')
  await expect(findTarget(data, 'wheelhouse')).rejects.toThrow('There is no target "wheelhouse".')
})

it('those that ship are neither replaced nor deleted, whatever a file is called', async () => {
  await expect(saveTarget(data, shipped)).rejects.toThrow('comes with Emporion and stays as it is')
  await expect(deleteTarget(data, shipped.id)).rejects.toThrow('comes with Emporion and stays as it is')
  put(targetsDir(data), 'mine.json', JSON.stringify({ ...shipped, name: 'Impostor' }))
  expect((await listTargets(data)).targets.map(({ target }) => target.name)).not.toContain('Impostor')
})

it('files that are none are reported by name, and the others are there', async () => {
  await saveTarget(data, own)
  put(targetsDir(data), 'broken.json', '{')
  put(targetsDir(data), 'empty.json', '{}')
  put(targetsDir(data), 'notes.txt', 'no target')
  const { targets, problems } = await listTargets(data)
  expect(targets.at(-1)!.target.id).toBe('wheelhouse')
  expect(problems.map(problem => problem.replace(targetsDir(data), ''))).toEqual(['/broken.json: It is not valid JSON.', expect.stringContaining('/empty.json: This is not a valid target')])
})

it('what is kept is read back the same', async () => {
  await saveTarget(data, own)
  expect(parseTarget(readFileSync(join(targetsDir(data), 'wheelhouse.json'), 'utf8'))).toEqual(own)
})
