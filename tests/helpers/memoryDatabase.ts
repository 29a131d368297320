import { sql } from 'drizzle-orm'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate } from 'drizzle-orm/pglite/migrator'
import { createDatabase } from '../../server/db/createDatabase'
import { schema, type Database } from '../../server/db/open'

let opened: Promise<Database> | undefined

async function openInMemory(): Promise<Database> {
  const db = drizzle(await createDatabase('memory://'), { schema })
  await migrate(db, { migrationsFolder: 'server/db/migrations' })
  // Both drivers answer alike; only the type of the raw result is another.
  return db as unknown as Database
}

/** An empty database in memory. It is opened once a thread, which takes seconds, and emptied for each that asks, which takes milliseconds. */
export async function memoryDatabase(): Promise<Database> {
  const db = await (opened ??= openInMemory())
  const { rows } = await db.execute<{ name: string }>(sql`SELECT quote_ident(tablename) AS name FROM pg_tables WHERE schemaname = 'public'`)
  await db.execute(sql.raw(`TRUNCATE ${rows.map(({ name }) => name).join()} RESTART IDENTITY CASCADE`))
  return db
}
