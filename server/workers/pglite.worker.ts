import { parentPort, workerData } from 'node:worker_threads'
import { z } from 'zod'
import { createDatabase } from '../db/createDatabase'
import { serveWire } from '../db/wireServer'

const { dataDir, socketPath } = z.object({ dataDir: z.string(), socketPath: z.string() }).parse(workerData)

const database = await createDatabase(dataDir)
// Of this thread alone, which is begun anew.
const closeWire = await serveWire(database, socketPath, () => process.exit(1))
parentPort?.postMessage('ready')
parentPort?.once('message', async () => {
  await closeWire()
  await database.close()
  parentPort?.postMessage('closed')
  parentPort?.close()
})
