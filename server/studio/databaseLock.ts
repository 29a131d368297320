import pg from 'pg'
import { log } from '../base/log'
import { EmporionError } from '../../core/errors'

/** Any number that other programs on the same server hardly use: "EMPORION" in ASCII. */
const KEY = '4993735863436922702'
const TRIES_AGAIN = 30
const AGAIN_AFTER_MS = 1000

/**
 * Takes a database on a PostgreSQL server for this process, as two data folders may name one. The server holds the lock for as long as
 * the connection lives (PostgreSQL 15, 13.3.5), so what a dead process held is free.
 *
 * @param lost called where the connection broke off and another Emporion has the database by the time there is one again
 * @returns what gives it free
 * @throws EmporionError `conflict` when another Emporion uses the database
 */
export async function lockDatabase(url: string, lost: (thrown: unknown) => void): Promise<() => Promise<void>> {
  let client = await take(url)
  let isOver = false
  const watchOver = () => client.once('end', () => void takeAgain())
  const takeAgain = async () => {
    for (let tries = 1; !isOver; tries++) {
      try {
        client = await take(url)
        watchOver()
        return
      }
      catch (thrown) {
        if (thrown instanceof EmporionError || tries >= TRIES_AGAIN) return lost(thrown)
        await new Promise(done => setTimeout(done, AGAIN_AFTER_MS))
      }
    }
  }
  watchOver()
  return async () => {
    isOver = true
    await client.end()
  }
}

async function take(url: string): Promise<pg.Client> {
  const client = new pg.Client({ connectionString: url })
  // What breaks off ends the connection, which is seen to.
  client.on('error', error => log.error({ err: error }, 'The connection that holds the database was lost'))
  await client.connect()
  const { rows } = await client.query<{ taken: boolean }>('SELECT pg_try_advisory_lock($1) AS taken', [KEY])
  if (rows[0]?.taken === true) return client
  await client.end()
  throw new EmporionError('conflict', { what: 'Another Emporion is using the database that DATABASE_URL names.', kept: 'Nothing was changed.', next: 'Use that one, stop it, or name another database.' })
}
