import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { freshFolder } from '../../tests/helpers/folder'
import { lockDataFolder } from './lock'

describe('a data folder', () => {
  it('is for one process at a time, and free again after a crash', async () => {
    const folder = freshFolder()
    writeFileSync(join(folder, 'in-use'), String(process.ppid))
    await expect(lockDataFolder(folder)).rejects.toThrow(/Another Emporion/)
    writeFileSync(join(folder, 'in-use'), '999999999')
    const unlock = await lockDataFolder(folder)
    expect(readFileSync(join(folder, 'in-use'), 'utf8')).toBe(String(process.pid))
    await unlock()
    await (await lockDataFolder(folder))()
  })
})
