import { makeDatabaseTemplate } from './server'

/** Before the tests of a run: one first start, whose database the other servers begin with. */
export default async function setup(): Promise<void> {
  process.env.EMPORION_DATABASE_TEMPLATE ??= await makeDatabaseTemplate()
}
