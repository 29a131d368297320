import { spawnSync } from 'node:child_process'
import { accessSync, constants, existsSync, readFileSync, rmSync, statfsSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { dirname, join } from 'node:path'

const LEAST_NODE = /** @type {const} */ ([20, 19])
const LEAST_FREE_BYTES = 500e6
const BROWSERS = ['chromium', 'chromium-browser', 'google-chrome', 'firefox', 'microsoft-edge']

/**
 * What was looked at: `ok`, or what to do.
 *
 * @typedef {{ what: string, ok: boolean, found: string, next?: string }} Finding
 */

/** @param {string} version such as 20.19.0 */
export function isNodeNewEnough(version) {
  const [major = 0, minor = 0] = version.split('.').map(Number)
  return major > LEAST_NODE[0] || major === LEAST_NODE[0] && minor >= LEAST_NODE[1]
}

/**
 * Looks over what Emporion needs: Node, the data folder and the room there, the port, a browser, and what sounds come out of.
 *
 * @param {{ data: string, port: number, platform: NodeJS.Platform }} of
 * @returns {Promise<Finding[]>}
 */
export async function examine({ data, port, platform }) {
  return [nodeFinding(process.versions.node), folderFinding(data), roomFinding(data), await portFinding(port), browserFinding(platform), audioFinding(platform)]
}

/** @param {string} version */
export function nodeFinding(version) {
  const ok = isNodeNewEnough(version)
  return { what: 'Node', ok, found: version, ...!ok && { next: `Install Node ${LEAST_NODE.join('.')} or newer from your system's packages.` } }
}

/**
 * Whether a file can be made in the data folder, or in the nearest folder above that there is.
 *
 * @param {string} data
 */
export function folderFinding(data) {
  const probe = join(data, `.doctor-${process.pid}`)
  const isThere = existsSync(data)
  try {
    if (isThere) {
      writeFileSync(probe, '')
      rmSync(probe)
    }
    else {
      accessSync(nearest(data), constants.W_OK)
    }
    return { what: 'Data folder', ok: true, found: isThere ? data : `${data} (made on the first start)` }
  }
  catch (thrown) {
    return { what: 'Data folder', ok: false, found: `${data} can't be written (${thrown instanceof Error && 'code' in thrown ? thrown.code : thrown})`, next: 'Choose another folder: --data DIR, or give yourself the right to write there.' }
  }
}

/** @param {string} data */
function roomFinding(data) {
  const { bavail, bsize } = statfsSync(nearest(data))
  const free = bavail * bsize
  const ok = free >= LEAST_FREE_BYTES
  return { what: 'Free space', ok, found: `${(free / 1e9).toFixed(1)} GB`, ...!ok && { next: `Free some space: at least ${LEAST_FREE_BYTES / 1e6} MB are needed.` } }
}

/** @param {string} path */
function nearest(path) {
  let at = path
  while (!existsSync(at) && dirname(at) !== at) at = dirname(at)
  return at
}

/**
 * @param {number} port
 * @returns {Promise<Finding>}
 */
export function portFinding(port) {
  return new Promise((done) => {
    const server = createServer()
    server.once('error', () => done({ what: 'Port', ok: false, found: `${port} is in use`, next: 'Another Emporion may be running: open it, stop it, or choose another port: --port N.' }))
    server.listen(port, '127.0.0.1', () => server.close(() => done({ what: 'Port', ok: true, found: `${port} is free` })))
  })
}

/** @param {NodeJS.Platform} platform */
function browserFinding(platform) {
  if (platform !== 'linux') return { what: 'Browser', ok: true, found: 'the one of the system' }
  const found = BROWSERS.find(name => spawnSync('sh', ['-c', `command -v ${name}`]).status === 0)
  return found ? { what: 'Browser', ok: true, found } : { what: 'Browser', ok: false, found: 'none was found', next: 'Install Chromium or Firefox from your system\'s packages.' }
}

/**
 * What the browser can play to. Linux lists its sound cards; elsewhere the system's own settings have to be looked at.
 *
 * @param {NodeJS.Platform} platform
 * @param {string} [cardsFile]
 */
export function audioFinding(platform, cardsFile = '/proc/asound/cards') {
  if (platform !== 'linux') return { what: 'Audio', ok: true, found: 'not looked at here; see the output device in the sound settings of the system' }
  const cards = existsSync(cardsFile) ? [...readFileSync(cardsFile, 'utf8').matchAll(/^\s*\d+ \[[^\]]*\]: (.+)$/gm)].map(([, name]) => name) : []
  return cards.length > 0 ? { what: 'Audio', ok: true, found: cards.join(', ') } : { what: 'Audio', ok: false, found: 'no sound card was found', next: 'Connect an audio interface, or check that its driver is loaded. Everything but listening works without one.' }
}

/** @param {readonly Finding[]} findings */
export function findingsText(findings) {
  const widest = Math.max(...findings.map(({ what }) => what.length))
  return findings.map(({ what, ok, found, next }) => `${ok ? 'ok  ' : 'look'}  ${what.padEnd(widest)}  ${found}${next ? `\n      ${' '.repeat(widest)}  ${next}` : ''}`).join('\n')
}
