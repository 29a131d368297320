import { execFileSync } from 'node:child_process'
import { freshFolder } from '../helpers/folder'
import setup from '../helpers/globalSetup'

/** Before all end-to-end tests: a database to begin with, and the demo's sounds. */
export default async function prepare(): Promise<void> {
  await setup()
  process.env.EMPORION_DEMO_SOUNDS ??= freshFolder()
  execFileSync('node', ['dist/demo.mjs', '--out', process.env.EMPORION_DEMO_SOUNDS])
}
