import { parentPort, workerData } from 'node:worker_threads'
import { PGlite } from '@electric-sql/pglite'
import { PGLiteSocketServer } from '@electric-sql/pglite-socket'
import { z } from 'zod'

const { dataDir, socketPath } = z.object({ dataDir: z.string(), socketPath: z.string() }).parse(workerData)

const database = await PGlite.create(dataDir)
const server = new PGLiteSocketServer({ db: database, path: socketPath, maxConnections: 32 })
await server.start()
parentPort?.postMessage('ready')
parentPort?.once('message', async () => {
  await server.stop()
  await database.close()
  parentPort?.postMessage('closed')
  parentPort?.close()
})
