import { demoSounds } from '../helpers/demoSounds'
import setup from '../helpers/globalSetup'

/** Before all end-to-end tests: a database to begin with, and the demo's sounds. */
export default async function prepare(): Promise<void> {
  await setup()
  process.env.EMPORION_DEMO_SOUNDS ??= await demoSounds()
}
