import { mkdirSync, realpathSync } from 'node:fs'
import { resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { Problem } from './problem.mjs'

const PORT = 4310
const LARGEST_PORT = 65535

/**
 * What `demo` and `start` are asked for. Folders that are named are made or must be there, so that a wrong one is seen at once.
 *
 * @param {readonly string[]} args
 * @param {string} usualData where data is kept unless `--data` names another place
 * @returns {{ port: number, data: string, roots: string[], reset: boolean, open: boolean }}
 */
export function serveArguments(args, usualData) {
  const values = parsed(args)
  const port = values.port === undefined ? PORT : Number(values.port)
  if (!Number.isInteger(port) || port < 1 || port > LARGEST_PORT) throw new Problem(`--port takes a number from 1 to ${LARGEST_PORT}, not "${values.port}".`)
  return {
    port,
    data: values.data === undefined ? usualData : madeFolder(values.data),
    roots: (values.root ?? []).map(folderThere),
    reset: values.reset ?? false,
    open: values.open ?? false,
  }
}

/** @param {readonly string[]} args */
function parsed(args) {
  try {
    return parseArgs({
      args: [...args],
      options: { port: { type: 'string' }, data: { type: 'string' }, root: { type: 'string', multiple: true }, reset: { type: 'boolean' }, open: { type: 'boolean' } },
    }).values
  }
  catch (thrown) {
    const option = /'(-[^' ]+|[^']+)/.exec(thrown instanceof Error ? thrown.message : '')?.[1] ?? 'an argument'
    throw new Problem(`Not understood: ${option}. See emporion help.`)
  }
}

/** @param {string} path */
function madeFolder(path) {
  try {
    mkdirSync(path, { recursive: true })
    return realpathSync(path)
  }
  catch (thrown) {
    throw new Problem(`The data folder ${resolve(path)} can't be made (${codeOf(thrown)}). Choose another one: --data DIR.`)
  }
}

/** @param {string} path */
function folderThere(path) {
  try {
    return realpathSync(path)
  }
  catch (thrown) {
    throw new Problem(`${resolve(path)} can't be read (${codeOf(thrown)}). Check the path, or that its drive is connected.`)
  }
}

/** @param {unknown} thrown */
function codeOf(thrown) {
  return thrown instanceof Error && 'code' in thrown ? String(thrown.code) : String(thrown)
}
