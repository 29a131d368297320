import { execFileSync, spawn } from 'node:child_process'
import { once } from 'node:events'
import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs'
import { createServer, type AddressInfo } from 'node:net'
import { join } from 'node:path'
import { beforeAll, expect, it } from 'vitest'
import { freshFolder } from '../helpers/folder'

const prefix = freshFolder()
const emporion = join(prefix, 'bin', 'emporion')
const packed = join(prefix, 'lib', 'node_modules', 'emporion')
const home = join(prefix, 'home')
/** As a person has it who has just installed the package: none of what the tests set. */
const env = { PATH: process.env.PATH, HOME: home }

beforeAll(() => {
  const made = freshFolder()
  mkdirSync(home)
  // What it packs is built already: the tests run on it.
  execFileSync('npm', ['pack', '--ignore-scripts', '--silent', '--pack-destination', made])
  // Nothing may be fetched: there is no registry at that place.
  execFileSync('npm', ['install', '--global', '--prefix', prefix, '--registry', 'http://127.0.0.1:9', '--offline', '--no-audit', '--no-fund', join(made, readdirSync(made)[0]!)], { stdio: 'pipe' })
})

const run = (...args: readonly string[]) => execFileSync(emporion, args, { encoding: 'utf8', env, cwd: home })

async function freePort(): Promise<number> {
  const server = createServer().listen(0, '127.0.0.1')
  await once(server, 'listening')
  const { port } = server.address() as AddressInfo
  server.close()
  return port
}

it('is a package without sources, tests and tools, whose commands work from any folder', () => {
  expect(readdirSync(packed).sort()).toEqual(['.output', 'CHANGELOG.md', 'LICENSE', 'README.md', 'bin', 'dist', 'docs', 'node_modules', 'package.json', 'server'])
  expect(existsSync(join(packed, 'dist', 'bench.mjs'))).toBe(false)
  expect(run('--version').trim()).toBe((JSON.parse(readFileSync('package.json', 'utf8')) as { version: string }).version)
  expect(run('help')).toContain('emporion demo     start with demo sounds')
  expect(run('targets', '--json')).toContain('"id":"sfz"')
  expect(() => run('test')).toThrow(/works in a checkout/)
})

it('starts with its data where the system keeps that of its user, makes the demo there, and ends when asked to', async () => {
  const port = await freePort()
  const child = spawn(emporion, ['demo', '--port', String(port)], { env, cwd: home, stdio: 'pipe' })
  const ended = once(child, 'exit')
  const url = `http://127.0.0.1:${port}`
  await expect.poll(() => fetch(url).then(answer => answer.text(), () => ''), { timeout: 60_000 }).toContain('<title>')
  await expect.poll(() => fetch(`${url}/api/sources`).then(answer => answer.json()), { timeout: 100_000, interval: 1000 }).toContainEqual(expect.objectContaining({ name: 'HARBOUR_TOOLS' }))
  expect(readdirSync(join(home, '.local', 'share', 'emporion', 'demo'))).toEqual(expect.arrayContaining(['db', 'demo-sounds', 'only-demo']))
  child.kill('SIGTERM')
  await ended
  expect(await fetch(url).catch(() => 'away')).toBe('away')
})
