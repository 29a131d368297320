import { Piscina } from 'piscina'

type Options = Pick<NonNullable<ConstructorParameters<typeof Piscina>[0]>, 'filename' | 'minThreads' | 'maxThreads' | 'idleTimeout' | 'resourceLimits'>

/**
 * Piscina asks for the file of its threads by `require` first, then by `import`. In Node 20 the whole process ends ("must be used on
 * an instantiated module") where a thread is ended while it requires an ES module, as those of a scan are that is cancelled early.
 */
const BY_IMPORT_ALONE = ['--no-experimental-require-module']

/** A pool of worker threads that may be ended at any moment. */
export function threadPool<Task, Result>(options: Options): Piscina<Task, Result> {
  return new Piscina<Task, Result>({ ...options, execArgv: BY_IMPORT_ALONE })
}
