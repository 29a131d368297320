import { existsSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { freshFolder } from '../helpers/folder'
import { openDatabase, schema, type OpenDatabase } from '../../server/db/open'

describe('a database that ends by itself', () => {
  const data = freshFolder()
  const ending = join(data, 'end')
  let database: OpenDatabase

  beforeAll(async () => {
    // The thread as it ships, which ends as on a full disk when a file appears.
    const workerFile = join(data, 'ending.worker.mjs')
    const shipped = resolve('dist/workers/pglite.worker.mjs')
    writeFileSync(workerFile, `
      import { existsSync, rmSync } from 'node:fs'
      await import(${JSON.stringify(shipped)})
      setInterval(() => {
        if (!existsSync(${JSON.stringify(ending)})) return
        rmSync(${JSON.stringify(ending)})
        process.exit(1)
      }, 20).unref()
    `)
    writeFileSync(join(data, 'makeDatabase.mjs'), `await import(${JSON.stringify(resolve('dist/workers/makeDatabase.mjs'))})`)
    database = await openDatabase({ folder: join(data, 'db'), migrationsFolder: 'server/db/migrations', workerFile })
  })
  afterAll(() => database.close())

  it('is opened anew with what was confirmed, at the same place', async () => {
    await database.db.insert(schema.sources).values({ name: 'Deck', path: '/deck' })
    writeFileSync(ending, '')
    await expect.poll(() => existsSync(ending), { timeout: 20_000 }).toBe(false)
    const names = () => database.db.select({ name: schema.sources.name }).from(schema.sources).catch(() => 'away')
    await expect.poll(names, { timeout: 60_000 }).toEqual([{ name: 'Deck' }])
    await database.db.insert(schema.sources).values({ name: 'Bow', path: '/bow' })
    expect(await names()).toHaveLength(2)
  })
})
