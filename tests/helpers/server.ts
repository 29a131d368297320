import { spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { setImmediate } from 'node:timers/promises'
import { createServer } from 'node:net'
import { cpSync, existsSync } from 'node:fs'
import { delimiter, join, resolve } from 'node:path'
import type { JobView } from '../../contract/jobs'
import { sharedFolder } from './shared'

const OVER = ['done', 'failed', 'cancelled']

/** The real built server, on a free port, with a data folder of its own. */
export interface RunningServer {
  readonly url: string
  readonly port: number
  /** Of the server's process. */
  readonly pid: number
  /** Asks a route; gives the answer's JSON, or throws its message. */
  readonly api: <T>(path: string, options?: { method?: string, body?: unknown }) => Promise<T>
  /** Waits for a job to end. */
  readonly ended: (job: JobView) => Promise<JobView>
  /** How the process ended, if it has, and the end of what it said. */
  readonly lastWords: () => string
  /** Ends the process, as hard as the signal says. */
  readonly stop: (signal?: NodeJS.Signals) => Promise<void>
}

/**
 * Making a database takes PGlite some seconds, so a data folder that was never used gets a copy of one that a first
 * start made. Where there is none to copy, and where a test deleted the database, the server makes its own.
 */
export function giveDatabase(data: string): void {
  const template = process.env.EMPORION_DATABASE_TEMPLATE
  if (template && !['vault', 'db'].some(name => existsSync(join(data, name)))) cpSync(template, join(data, 'db'), { recursive: true })
}

/** Starts a server on an empty folder and gives the database that it made. */
export async function makeDatabaseTemplate(): Promise<string> {
  const data = await sharedFolder('first start', async (folder) => {
    const server = await startServer({ data: folder, roots: [folder] })
    await server.stop()
  })
  return join(data, 'db')
}

export async function startServer(options: { data: string, roots: readonly string[], demo?: string, port?: number, databaseUrl?: string }): Promise<RunningServer> {
  const port = options.port ?? await freePort()
  giveDatabase(options.data)
  const child = spawn('node', ['.output/server/index.mjs'], {
    env: {
      ...process.env,
      EMPORION_ROOT: resolve('.'),
      EMPORION_DATA: options.data,
      EMPORION_ROOTS: options.roots.join(delimiter),
      EMPORION_DEMO: options.demo ?? '',
      DATABASE_URL: options.databaseUrl ?? '',
      NITRO_HOST: '127.0.0.1',
      NITRO_PORT: String(port),
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  const lastWords = await opened(child)
  const url = `http://127.0.0.1:${port}`
  const api = async <T>(path: string, { method = 'GET', body }: { method?: string, body?: unknown } = {}): Promise<T> => {
    // A test that has waited for a program has not heard yet that the server closed the connection meanwhile (after five quiet seconds).
    await setImmediate()
    const response = await fetch(`${url}${path}`, { method, body: body === undefined ? undefined : JSON.stringify(body) })
    const answer = await response.json() as T & { message?: string }
    if (!response.ok) throw new Error(answer.message)
    return answer
  }
  return {
    url,
    port,
    pid: child.pid ?? 0,
    api,
    lastWords,
    ended: async (job) => {
      for (;;) {
        const now = await api<JobView>(`/api/jobs/${job.id}`)
        if (OVER.includes(now.state)) return now
        await new Promise(done => setTimeout(done, 50))
      }
    },
    stop: async (signal = 'SIGTERM') => {
      if (child.exitCode !== null || child.signalCode !== null) return
      const exit = once(child, 'exit')
      child.kill(signal)
      await exit
    },
  }
}

export function freePort(): Promise<number> {
  return new Promise((done, fail) => {
    const probe = createServer().once('error', fail).listen(0, '127.0.0.1', () => {
      const address = probe.address()
      probe.close(() => done(typeof address === 'object' && address ? address.port : 0))
    })
  })
}

const MOST_LAST_WORDS = 4000

function opened(child: ChildProcess): Promise<() => string> {
  return new Promise((done, fail) => {
    let said = ''
    const lastWords = () => `${child.exitCode === null && child.signalCode === null ? 'running' : `ended (${child.exitCode ?? child.signalCode})`}: ${said.slice(-MOST_LAST_WORDS)}`
    const listen = (chunk: Buffer) => {
      said += chunk.toString()
      if (said.includes('Emporion is open')) done(lastWords)
    }
    child.stdout?.on('data', listen)
    child.stderr?.on('data', listen)
    child.once('exit', code => fail(new Error(`The server ended (${code}) before it was open:\n${said}`)))
  })
}
