import { z } from 'zod'

/** The largest number that a row has. Source: PostgreSQL 15, 8.1.1, `integer`. */
export const LARGEST_ID = 2_147_483_647

/** A number of a row, as it comes in a path or query. */
export const idSchema = z.coerce.number<number | string>().int().min(1).max(LARGEST_ID)

/** A place in a list. */
export const placeSchema = z.coerce.number<number | string>().int().min(0).max(LARGEST_ID)

/** What a pattern or a preset is called by, in a path. */
export const nameSchema = z.string().min(1).max(80)

/** A path on the server's disk. */
export const pathSchema = z.string().min(1).max(4096)

/** True or false, in a query as a word. */
export const flagSchema = z.union([z.boolean(), z.stringbool()])

/** What middle C is called. */
export const middleCSchema = z.enum(['C3', 'C4'])
