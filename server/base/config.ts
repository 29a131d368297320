import { homedir } from 'node:os'
import { delimiter, join, resolve } from 'node:path'

/** Where things lie on this machine, from the environment that `./emporion` sets. */
export interface StudioConfig {
  /** Of the application itself. */
  readonly rootDir: string
  readonly dataDir: string
  readonly vaultDir: string
  readonly uploadsDir: string
  readonly cacheDir: string
  /** What is needed for as long as a job runs; empty at every start. */
  readonly tempDir: string
  /** Folders below which files may be read. */
  readonly roots: readonly string[]
  readonly workersDir: string
  readonly migrationsDir: string
  readonly databaseUrl: string | undefined
  /** Where the demo's packs are made, or lie. */
  readonly demoDir: string
  /** The demo is brought in by itself when the library is empty. */
  readonly startsWithDemo: boolean
  readonly port: number
}

export function readConfig(environment: NodeJS.ProcessEnv): StudioConfig {
  const root = resolve(environment.EMPORION_ROOT ?? '.')
  const dataDir = resolve(environment.EMPORION_DATA ?? join(root, '.data'))
  const roots = environment.EMPORION_ROOTS ? environment.EMPORION_ROOTS.split(delimiter).filter(Boolean) : [homedir()]
  return {
    rootDir: root,
    dataDir,
    vaultDir: join(dataDir, 'vault'),
    uploadsDir: join(dataDir, 'uploads'),
    cacheDir: join(dataDir, 'cache'),
    tempDir: join(dataDir, 'temp'),
    roots: [...new Set([...roots.map(path => resolve(path)), dataDir])],
    workersDir: join(root, 'dist', 'workers'),
    migrationsDir: join(root, 'server', 'db', 'migrations'),
    databaseUrl: environment.DATABASE_URL || undefined,
    demoDir: resolve(environment.EMPORION_DEMO || join(dataDir, 'demo-sounds')),
    startsWithDemo: Boolean(environment.EMPORION_DEMO),
    port: Number(environment.NITRO_PORT ?? 4310),
  }
}
