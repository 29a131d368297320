import { fork, spawn } from 'node:child_process'
import { mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import { hostname } from 'node:os'
import { join } from 'node:path'
import { build } from 'esbuild'
import { describe, expect, it } from 'vitest'
import { freshFolder } from '../../tests/helpers/folder'
import { lockDataFolder } from './lock'
import { startOfProcess } from './processIdentity'

const ROUNDS = 125
const PROCESSES = 8
const CROWD = 10

/** What an Emporion left in a data folder that ended without a word. */
function leave(data: string, claim: { pid: number, start: string, host?: string }): void {
  mkdirSync(join(data, 'in-use'), { recursive: true })
  const place = join(data, 'in-use', crypto.randomUUID())
  writeFileSync(`${place}.claim`, JSON.stringify({ host: hostname(), ...claim }))
  writeFileSync(`${place}.held`, '')
}
const DEAD = { pid: 999_999, start: 'long ago' }

describe('a data folder', () => {
  it('is for one at a time, and free again when it was given free', async () => {
    const data = freshFolder()
    const unlock = await lockDataFolder(data)
    await expect(lockDataFolder(data)).rejects.toThrow(`Another Emporion (process ${process.pid}) is using`)
    await unlock()
    await (await lockDataFolder(data))()
    expect(readdirSync(join(data, 'in-use'))).toEqual([])
  })

  it('is free after a crash, whoever has that process id by now, and whatever half-written lock lies there', async () => {
    const data = freshFolder()
    leave(data, DEAD)
    const stranger = spawn('sleep', ['60'])
    leave(data, { pid: stranger.pid!, start: 'another time' })
    writeFileSync(join(data, 'in-use', `${crypto.randomUUID()}.claim`), '')
    await (await lockDataFolder(data))()
    stranger.kill()
  })

  it('is not free while its holder lives, and never speaks of the process of another computer as of one here', async () => {
    const data = freshFolder()
    leave(data, { pid: process.ppid, start: (await startOfProcess(process.ppid))! })
    await expect(lockDataFolder(data)).rejects.toThrow(`(process ${process.ppid})`)
    const other = freshFolder()
    leave(other, { ...DEAD, host: 'a-ship' })
    await expect(lockDataFolder(other)).rejects.toThrow(/on the computer a-ship .* If it is not running any more, delete/)
  })

  it('a lock of an older version that a stranger\'s process id stands in is taken over', async () => {
    const data = freshFolder()
    writeFileSync(join(data, 'in-use'), String(process.ppid))
    await (await lockDataFolder(data))()
  })

  it(`of ${CROWD} at the same moment over what a dead one left exactly one has it, in each of 100 rounds`, async () => {
    for (let round = 0; round < 100; round++) {
      const data = freshFolder()
      leave(data, DEAD)
      const ends = await Promise.allSettled(Array.from({ length: CROWD }, () => lockDataFolder(data)))
      expect(ends.filter(end => end.status === 'fulfilled')).toHaveLength(1)
    }
  })

  it(`of ${PROCESSES} processes at the same moment never two have it, in ${ROUNDS} rounds: ${PROCESSES * ROUNDS} starts`, async () => {
    const folder = freshFolder()
    const bundle = join(folder, 'trial.mjs')
    await build({
      stdin: {
        contents: `import { lockDataFolder } from './lock'
          process.on('message', data => lockDataFolder(data).then(() => process.send('held'), () => process.send('refused')))
          process.send('ready')`,
        resolveDir: join(process.cwd(), 'server/studio'), loader: 'ts',
      },
      bundle: true, platform: 'node', format: 'esm', outfile: bundle,
    })
    const children = Array.from({ length: PROCESSES }, () => fork(bundle))
    const answer = (child: (typeof children)[number]) => new Promise<unknown>(done => child.once('message', done))
    await Promise.all(children.map(answer))
    const holders: number[] = []
    for (let round = 0; round < ROUNDS; round++) {
      const data = join(folder, String(round))
      mkdirSync(data)
      leave(data, DEAD)
      const answers = children.map(answer)
      for (const child of children) child.send(data)
      holders.push((await Promise.all(answers)).filter(output => output === 'held').length)
    }
    for (const child of children) child.kill()
    expect(holders.filter(count => count > 1)).toEqual([])
    expect(holders.filter(count => count === 1)).toHaveLength(ROUNDS)
  })
})
