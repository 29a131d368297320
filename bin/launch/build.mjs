import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { npmCommand } from './places.mjs'
import { Problem } from './problem.mjs'

/** All that a build is made from. */
const SOURCES = ['app', 'bench', 'cli', 'contract', 'core', 'server', 'demo', 'public', 'scripts', 'train', 'tests/helpers']
const SOURCE_FILES = ['nuxt.config.ts', 'package-lock.json']
const NOTHING = { installed: () => undefined, built: () => undefined }

/**
 * Sees to it that a checkout is installed and built from its sources as they are now.
 *
 * @param {string} root
 * @param {{ installed: () => void, built: () => void }} [before] what is shown before each, as both take minutes
 */
export function installAndBuild(root, before = NOTHING) {
  const wanted = sumOf(root, [], ['package-lock.json'])
  const installedFor = join(root, 'node_modules', '.installed-for')
  if (textOf(installedFor) !== wanted) {
    before.installed()
    const npm = npmCommand(process.platform)
    run(npm.command, ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: root, shell: npm.shell }, 'The packages could not be installed')
    writeFileSync(installedFor, wanted)
  }
  const sources = sumOf(root, SOURCES, SOURCE_FILES)
  const builtFrom = join(root, 'dist', '.built-from')
  if (existsSync(join(root, '.output')) && textOf(builtFrom) === sources) return
  before.built()
  run(process.execPath, [join('scripts', 'build.mjs')], { cwd: root, shell: false }, 'The build failed')
  mkdirSync(join(root, 'dist'), { recursive: true })
  writeFileSync(builtFrom, sources)
}

/**
 * One text for all that folders and files hold, their names among it; tests are left out, as nothing is built from them.
 *
 * @param {string} root
 * @param {readonly string[]} folders
 * @param {readonly string[]} files
 */
export function sumOf(root, folders, files) {
  const hash = createHash('sha256')
  const paths = folders.flatMap(folder => readdirSync(join(root, folder), { withFileTypes: true, recursive: true })
    .filter(entry => entry.isFile() && !entry.name.endsWith('.test.ts'))
    .map(entry => join(entry.parentPath, entry.name)))
  for (const path of [...paths, ...files.map(file => join(root, file))].sort()) hash.update(`${path.slice(root.length)}\0`).update(readFileSync(path)).update('\0')
  return hash.digest('hex')
}

/**
 * @param {string} command
 * @param {readonly string[]} args
 * @param {{ cwd: string, shell: boolean }} options
 * @param {string} failure
 */
function run(command, args, options, failure) {
  const { status, stdout, stderr, error } = spawnSync(command, args, { ...options, encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 })
  if (status !== 0) throw new Problem(`${stdout ?? ''}${stderr ?? ''}${error?.message ?? ''}\n${failure}; what it printed is above.`)
}

/** @param {string} path */
function textOf(path) {
  return existsSync(path) ? readFileSync(path, 'utf8') : ''
}
