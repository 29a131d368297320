import { mkdir, readFile, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { EmporionError } from '../../core/errors'

/**
 * Takes a data folder for this process: two servers on one database would destroy it. A lock left by a process
 * that is gone is taken over.
 *
 * @throws EmporionError `conflict` when another Emporion uses the folder
 */
export async function lockDataFolder(dataDir: string): Promise<() => Promise<void>> {
  await mkdir(dataDir, { recursive: true })
  const path = join(dataDir, 'in-use')
  for (let attempt = 0; attempt < 2; attempt++) {
    try {
      await writeFile(path, String(process.pid), { flag: 'wx' })
      return () => rm(path, { force: true })
    }
    catch (thrown) {
      if (!(thrown instanceof Error && 'code' in thrown && thrown.code === 'EEXIST')) throw thrown
      const holder = Number(await readFile(path, 'utf8').catch(() => '0'))
      if (holder > 0 && holder !== process.pid && isRunning(holder)) {
        throw new EmporionError('conflict', {
          what: `Another Emporion (process ${holder}) is using the data folder ${dataDir}.`,
          kept: 'Nothing was changed.',
          next: 'Use that one, stop it, or start with another folder: --data DIR.',
        })
      }
      await rm(path, { force: true })
    }
  }
  throw new EmporionError('conflict', `The data folder ${dataDir} could not be taken: something else takes it at the same moment.`)
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  }
  catch (thrown) {
    return thrown instanceof Error && 'code' in thrown && thrown.code === 'EPERM'
  }
}
