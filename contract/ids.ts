import { z } from 'zod'

/** The largest number that a row has. Source: PostgreSQL 15, 8.1.1, `integer`. */
export const LARGEST_ID = 2_147_483_647

/** A number of a row, as it comes in a path or query. */
export const idSchema = z.coerce.number().int().min(1).max(LARGEST_ID)

/** A place in a list. */
export const placeSchema = z.coerce.number().int().min(0).max(LARGEST_ID)
