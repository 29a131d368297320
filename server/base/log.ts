import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import pino from 'pino'
import { createStream, type RotatingFileStream } from 'rotating-file-stream'
import { messageOf } from '../../core/errors'

/** Of each file, and how many older ones are kept beside it. */
const LARGEST = '1M'
const OLDER_FILES = 4
export const LOG_NAME = 'emporion.log'

export function logFolder(dataDir: string): string {
  return join(dataDir, 'log')
}

/** What a line of the log says to somebody at a terminal. */
function spoken(line: string): string {
  const { msg, err } = JSON.parse(line) as { readonly msg?: string, readonly err?: { readonly message?: string } }
  return [msg, err?.message].filter(Boolean).join(': ')
}

let file: RotatingFileStream | undefined

const places = pino.multistream([
  { level: 'error', stream: { write: line => void process.stderr.write(`${spoken(line)}\n`) } },
  { level: 'info', stream: { write: line => void file?.write(line) } },
])

/**
 * The log of this process: errors are printed, and all goes to the file of the data folder once `logInto` was called. The message of
 * a line is one of ours, without names of files; those stand in `err` alone, which a report leaves out.
 */
export const log = pino({ level: 'info', base: null, timestamp: pino.stdTimeFunctions.isoTime, serializers: { err: errorOf } }, places)

function errorOf(thrown: unknown): { readonly type: string, readonly message: string, readonly code?: string, readonly stack?: string } {
  if (!(thrown instanceof Error)) return { type: typeof thrown, message: messageOf(thrown) }
  return { type: thrown.name, message: messageOf(thrown), ...'code' in thrown ? { code: String(thrown.code) } : {}, stack: thrown.stack }
}

/** Writes the log into the data folder from now on, in files that take turns. A disk that is full loses lines and nothing else. */
export function logInto(dataDir: string): () => Promise<void> {
  mkdirSync(logFolder(dataDir), { recursive: true })
  const opened = createStream(LOG_NAME, { path: logFolder(dataDir), size: LARGEST, maxFiles: OLDER_FILES })
  opened.on('error', () => undefined)
  file = opened
  return () => new Promise((done) => {
    if (file === opened) file = undefined
    opened.on('close', done)
    opened.end()
  })
}
