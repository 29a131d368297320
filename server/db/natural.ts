import { sql, type SQL, type SQLWrapper } from 'drizzle-orm'

/**
 * Sorts names as people count, `Tom 2` before `Tom 10`, capital letters or not; and the same on every server, whatever
 * language it sorts in. Numbers are compared at twelve digits.
 */
export function naturally(name: SQLWrapper): SQL {
  const padded = sql`regexp_replace(lower(${name} COLLATE "C"), '([0-9]+)', '000000000000\\1', 'g')`
  return sql`regexp_replace(${padded}, '0*([0-9]{12,})', '\\1', 'g') COLLATE "C"`
}
