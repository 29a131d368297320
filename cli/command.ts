import { join, resolve } from 'node:path'
import { parseArgs, type ParseArgsConfig } from 'node:util'
import { EmporionError, messageOf, type ErrorCode } from '../core/errors'

/** Exit states by what went wrong, for scripts; 1 is for the rest. */
export const EXIT: Partial<Record<ErrorCode, number>> = { 'invalid': 2, 'not-found': 3, 'unreadable': 4, 'unsupported': 4, 'limit': 5, 'disk-full': 6 }
export const NOT_UNDERSTOOD = 2

/** The data folder that a command looks into: the one that is named, or that of `emporion start`. */
export function dataDirOf(named: string | undefined): string {
  return resolve(named ?? process.env.EMPORION_OWN_DATA ?? join('.data', 'own'))
}

type Options = NonNullable<ParseArgsConfig['options']>
type Parsed<O extends Options> = ReturnType<typeof parseArgs<{ options: O, allowPositionals: true }>>

/**
 * Reads the arguments of a command and runs it. `--help` and `-h` print how it is used and end with 0; what is not understood ends
 * with one sentence, how it is used, and 2; what goes wrong on the way with its own sentences, and the exit state that belongs to
 * them.
 *
 * @param check what is wrong with the arguments, in one sentence, if anything is
 * @param run gives the exit state
 */
export async function command<O extends Options>(usage: string, options: O, check: (parsed: Parsed<O>) => string | undefined, run: (parsed: Parsed<O>) => Promise<number>): Promise<void> {
  const args = process.argv.slice(2)
  const json = args.includes('--json')
  if (args.includes('--help') || args.includes('-h')) {
    console.log(usage)
    return
  }
  const parsed = parsedArgs(args, options)
  const problem = typeof parsed === 'string' ? parsed : check(parsed)
  if (typeof parsed === 'string' || problem !== undefined) {
    console.error(`${problem}\n\n${usage}`)
    process.exitCode = NOT_UNDERSTOOD
    return
  }
  try {
    process.exitCode = await run(parsed)
  }
  catch (thrown) {
    const code = thrown instanceof EmporionError ? thrown.code : 'broken'
    if (json) console.log(JSON.stringify({ error: code, message: messageOf(thrown) }))
    console.error(messageOf(thrown))
    process.exitCode = EXIT[code] ?? 1
  }
}

function parsedArgs<O extends Options>(args: string[], options: O): Parsed<O> | string {
  try {
    return parseArgs({ args, options, allowPositionals: true })
  }
  catch (thrown) {
    return usageProblem(thrown)
  }
}

/** What `parseArgs` says, in words of ours. */
function usageProblem(thrown: unknown): string {
  const option = /'(-[^' ]+(?:, --[^' ]+)?)/.exec(messageOf(thrown))?.[1] ?? 'An argument'
  const code = thrown instanceof Error && 'code' in thrown ? thrown.code : ''
  if (code === 'ERR_PARSE_ARGS_UNKNOWN_OPTION') return `There is no option ${option}.`
  if (code === 'ERR_PARSE_ARGS_INVALID_OPTION_VALUE') return /does not take an argument/.test(messageOf(thrown)) ? `${option} takes no value.` : `${option} needs a value.`
  return `${option} was not understood.`
}
