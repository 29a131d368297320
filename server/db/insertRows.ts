import { getTableColumns, getTableName, sql, type SQL } from 'drizzle-orm'
import type { PgTable } from 'drizzle-orm/pg-core'

/** A value as `jsonb_populate_recordset` reads it back into any column: bytes in hex, dates as ISO 8601. */
function plain(value: unknown): unknown {
  return Buffer.isBuffer(value) ? `\\x${value.toString('hex')}` : value
}

/** A row as one JSON object. Written piece by piece: an object made for each row only to be written costs more than all the rest. */
function record(row: Readonly<Record<string, unknown>>, columns: readonly { readonly key: string, readonly quoted: string }[]): string {
  return `{${columns.map(({ key, quoted }) => `${quoted}:${JSON.stringify(plain(row[key])) ?? 'null'}`).join()}}`
}

/**
 * `INSERT INTO table (...) SELECT ...` of many rows that travel as one JSON parameter: a statement with a parameter for
 * each of thousands of values takes twice as long, here and in the database. To be followed by what to do on conflict.
 *
 * @param rows all with the same columns; a column that is left out gets its default
 */
export function insertRows(table: PgTable, rows: readonly Readonly<Record<string, unknown>>[]): SQL {
  const columns = getTableColumns(table)
  const used = Object.entries(columns).filter(([key]) => rows[0] !== undefined && key in rows[0])
    .map(([key, { name }]) => ({ key, name, quoted: JSON.stringify(name) }))
  const names = sql.join(used.map(({ name }) => sql.identifier(name)), sql`, `)
  const name = sql.identifier(getTableName(table))
  return sql`INSERT INTO ${name} (${names}) SELECT ${names} FROM jsonb_populate_recordset(NULL::${name}, ${`[${rows.map(row => record(row, used)).join()}]`}::jsonb)`
}
