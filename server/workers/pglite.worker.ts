import { parentPort, workerData } from 'node:worker_threads'
import { z } from 'zod'
import { createDatabase } from '../db/createDatabase'
import { serveWire } from '../db/wireServer'

const { dataDir, socketPath } = z.object({ dataDir: z.string(), socketPath: z.string() }).parse(workerData)

const database = await createDatabase(dataDir)
const closeWire = await serveWire(database, socketPath)
parentPort?.postMessage('ready')
parentPort?.once('message', async () => {
  await closeWire()
  await database.close()
  parentPort?.postMessage('closed')
  parentPort?.close()
})
