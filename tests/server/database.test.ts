import { cpSync, existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { freshFolder } from '../helpers/folder'
import { openDatabase, schema, type OpenDatabase } from '../../server/db/open'
import { backupFolder } from '../../server/db/upgrade'

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

describe('the database of another version', () => {
  const workerFile = resolve('dist/workers/pglite.worker.mjs')
  const open = (folder: string, migrationsFolder: string) => openDatabase({ folder, migrationsFolder, workerFile })

  /** The steps of an older version: all but the last. */
  function olderSteps(): string {
    const folder = join(freshFolder(), 'migrations')
    cpSync('server/db/migrations', folder, { recursive: true })
    const journal = join(folder, 'meta', '_journal.json')
    const { entries, ...rest } = JSON.parse(readFileSync(journal, 'utf8')) as { entries: unknown[] }
    writeFileSync(journal, JSON.stringify({ ...rest, entries: entries.slice(0, -1) }))
    return folder
  }

  it('is copied before it is brought up to date, and a new one is not', async () => {
    const folder = join(freshFolder(), 'db')
    const older = olderSteps()
    const first = await open(folder, older)
    await first.db.execute(sql`INSERT INTO sources (name, path) VALUES ('Deck', '/deck')`)
    await first.close()
    expect(existsSync(backupFolder(folder))).toBe(false)

    const updated = await open(folder, 'server/db/migrations')
    expect(await updated.db.select({ name: schema.sources.name }).from(schema.sources)).toEqual([{ name: 'Deck' }])
    await updated.db.insert(schema.sources).values({ name: 'Bow', path: '/bow' })
    await updated.close()

    const kept = await open(backupFolder(folder), older)
    expect((await kept.db.execute(sql`SELECT name FROM sources`)).rows).toEqual([{ name: 'Deck' }])
    await kept.close()
  })

  it('that is newer is refused with a sentence, and works on in its own version', async () => {
    const folder = join(freshFolder(), 'db')
    const newer = await open(folder, 'server/db/migrations')
    await newer.db.insert(schema.sources).values({ name: 'Deck', path: '/deck' })
    await newer.close()
    await expect(open(folder, olderSteps())).rejects.toThrow(/was last used by a newer Emporion.*Nothing was changed\. Start the newer version/)
    const again = await open(folder, 'server/db/migrations')
    expect(await again.db.select({ name: schema.sources.name }).from(schema.sources)).toEqual([{ name: 'Deck' }])
    await again.close()
  })
})
