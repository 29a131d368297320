import { z } from 'zod'
import { createDatabase } from '../db/createDatabase'

// A process of its own: making a database takes several times the memory that using it does, and a thread never gives it back.
const dataDir = z.string().min(1).parse(process.argv[2])
const database = await createDatabase(dataDir)
await database.close()
process.exit(0)
