import { mkdirSync, symlinkSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { freshFolder, put } from '../../tests/helpers/folder'
import { allowedPath, liesBelow } from './roots'

it('a path lies below a folder by whole names', () => {
  expect(liesBelow('/ferry/deck', '/ferry')).toBe(true)
  expect(liesBelow('/ferry', '/ferry')).toBe(true)
  expect(liesBelow('/ferry2/deck', '/ferry')).toBe(false)
  expect(liesBelow('/', '/ferry')).toBe(false)
  expect(liesBelow('/ferry/deck', '/')).toBe(true)
})

it('what lies below a root may be read, by its real path; nothing else, nor what a link leads to', async () => {
  const folder = freshFolder()
  const root = join(folder, 'root')
  const file = put(root, 'a.wav', 'x')
  const outside = put(folder, 'secret.txt', 'x')
  symlinkSync(outside, join(root, 'link'))
  symlinkSync(root, join(folder, 'root-link'))
  expect(await allowedPath(join(root, '..', 'root', 'a.wav'), [root])).toBe(file)
  expect(await allowedPath(join(folder, 'root-link', 'a.wav'), [join(folder, 'root-link')])).toBe(file)
  await expect(allowedPath(outside, [root])).rejects.toThrow('lies outside the folders')
  await expect(allowedPath(join(root, 'link'), [root])).rejects.toThrow('lies outside the folders')
  await expect(allowedPath(join(root, '..', 'secret.txt'), [root])).rejects.toThrow('lies outside the folders')
})

it('whether something is there is not told of what lies outside', async () => {
  const root = freshFolder()
  mkdirSync(join(root, 'in'))
  await expect(allowedPath(join(root, 'gone.wav'), [root])).rejects.toThrow('is not there')
  await expect(allowedPath('/nowhere/gone.wav', [root])).rejects.toThrow('lies outside the folders')
  await expect(allowedPath('gone.wav', [root])).rejects.toThrow('is not a whole path')
})
