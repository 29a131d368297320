import { readdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { messageOf } from '../core/errors'
import { LOCK_FOLDER, lockDataFolder } from '../server/studio/lock'

/** Deletes what a data folder holds, unless an Emporion is using it. Called by `./emporion demo --reset` alone, which has checked whose folder it is. */
const data = process.argv[2]!
try {
  const unlock = await lockDataFolder(data)
  for (const name of await readdir(data)) if (name !== LOCK_FOLDER) await rm(join(data, name), { recursive: true, force: true })
  await unlock()
}
catch (thrown) {
  console.error(`${messageOf(thrown)} It was not deleted.`)
  process.exitCode = 1
}
