import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import { homedir } from 'node:os'
import { delimiter, join } from 'node:path'
import { setTimeout as after } from 'node:timers/promises'
import { pathToFileURL } from 'node:url'
import { openCommand } from './places.mjs'
import { Problem } from './problem.mjs'

/** In a folder that held nothing but the demo from its beginning: what `--reset` may delete. */
const ONLY_DEMO = 'only-demo'
const LOCK_FOLDER = 'in-use'
const ASK_AGAIN_MS = 200
const LONGEST_START_MS = 120_000

/**
 * Starts the server, in this process.
 *
 * @param {'demo' | 'start'} mode
 * @param {{ port: number, data: string, roots: readonly string[], reset: boolean, open: boolean }} asked
 * @param {{ root: string, demoPlace: string }} places the demo's own place was its own before there was a mark
 */
export async function serve(mode, { port, data, roots, reset, open }, { root, demoPlace }) {
  mkdirSync(data, { recursive: true })
  if (reset) resetData(mode, data, root, demoPlace)
  if (mode === 'demo' && readdirSync(data).every(name => name === LOCK_FOLDER)) writeFileSync(join(data, ONLY_DEMO), '')
  const url = `http://127.0.0.1:${port}`
  console.log(`\nOpening ${url}`)
  if (mode === 'demo') {
    console.log('The demo\'s sounds and kits are made on the first start, in half a minute or so, while you look around.')
    console.log('Try this: in the Library go down the list with the arrow keys, put a few sounds on the tray with Enter,')
    console.log('then open the Bench, put them on pads, play with Z to , and A to K, and store the kit in the Vault.')
  }
  console.log(`The data is in ${data}. Stop with Ctrl+C.\n`)
  Object.assign(process.env, {
    EMPORION_ROOT: root, EMPORION_DATA: data, EMPORION_ROOTS: [process.env.EMPORION_ROOTS || homedir(), ...roots].join(delimiter),
    EMPORION_DEMO: mode === 'demo' ? join(data, 'demo-sounds') : '', NITRO_HOST: '127.0.0.1', NITRO_PORT: String(port),
  })
  if (open) void openWhenItAnswers(url)
  await import(pathToFileURL(join(root, '.output', 'server', 'index.mjs')).href)
}

/**
 * Why a data folder may not be deleted; undefined where it may.
 *
 * @param {'demo' | 'start'} mode
 * @param {string} data
 * @param {string} demoPlace
 * @param {NodeJS.ProcessEnv} env
 */
export function whyNoReset(mode, data, demoPlace, env) {
  if (mode !== 'demo') return '--reset is for the demo only: your own data is not deleted by a flag.'
  if (env.DATABASE_URL) return `DATABASE_URL is set: --reset would delete ${data}, and leave in that database what belongs to it. Nothing was deleted. Start without --reset, or without DATABASE_URL.`
  if (readdirSync(data).length === 0 || existsSync(join(data, ONLY_DEMO)) || data === demoPlace) return undefined
  return `${data} was not made for the demo alone, so it was not deleted. Look at what it holds, and delete it yourself, or choose another folder: --data DIR.`
}

/**
 * @param {'demo' | 'start'} mode
 * @param {string} data
 * @param {string} root
 * @param {string} demoPlace
 */
function resetData(mode, data, root, demoPlace) {
  const why = whyNoReset(mode, data, demoPlace, process.env)
  if (why !== undefined) throw new Problem(why)
  if (spawnSync(process.execPath, [join(root, 'dist', 'reset.mjs'), data], { stdio: 'inherit' }).status !== 0) throw new Problem('Nothing was started.')
}

/** @param {string} url */
async function openWhenItAnswers(url) {
  for (const until = Date.now() + LONGEST_START_MS; Date.now() < until; await after(ASK_AGAIN_MS)) {
    if (!await fetch(url).then(({ ok }) => ok, () => false)) continue
    const { command, args } = openCommand(process.platform, url)
    spawn(command, args, { stdio: 'ignore', detached: true }).on('error', () => console.error(`No browser could be opened. Open ${url} yourself.`)).unref()
    return
  }
}
