import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { homedir } from 'node:os'
import { join } from 'node:path'
import { serveArguments } from './arguments.mjs'
import { installAndBuild } from './build.mjs'
import { examine, findingsText, isNodeNewEnough } from './doctor.mjs'
import { helpText } from './help.mjs'
import { isCheckout as hasSources, usualData } from './places.mjs'
import { Problem } from './problem.mjs'
import { serve } from './serve.mjs'

const NOT_UNDERSTOOD = 2
/** Commands of their own, bundled in `dist`. */
const TOOLS = ['analyse', 'convert', 'targets', 'verify']
/** Those that need the sources. */
const OF_CHECKOUTS = { test: join('scripts', 'test.mjs'), bench: join('dist', 'bench.mjs') }

/**
 * Emporion's one command.
 *
 * @param {readonly string[]} argv
 * @param {string} root where it is installed
 */
export async function main(argv, root) {
  const [name = 'help', ...args] = argv
  try {
    if (!isNodeNewEnough(process.versions.node)) throw new Problem(`Emporion needs Node 20.19 or newer; this is ${process.versions.node}. Install it from your system's packages, then run this again.`)
    await run(name, args, root)
  }
  catch (thrown) {
    if (!(thrown instanceof Problem)) throw thrown
    console.error(thrown.message)
    process.exitCode = 1
  }
}

/**
 * @param {string} name
 * @param {readonly string[]} args
 * @param {string} root
 */
async function run(name, args, root) {
  const isCheckout = hasSources(root)
  const place = { root, isCheckout, platform: process.platform, env: process.env, home: homedir() }
  const ownData = usualData(place, 'own')
  switch (name) {
    case 'demo':
    case 'start': {
      const demoPlace = usualData(place, 'demo')
      const asked = serveArguments(args, name === 'demo' ? demoPlace : ownData)
      prepare(root, isCheckout, console.log)
      return serve(name, asked, { root, demoPlace })
    }
    case 'doctor': {
      const { data, port } = serveArguments(args, ownData)
      const findings = await examine({ data, port, platform: process.platform })
      console.log(findingsText(findings))
      process.exitCode = findings.every(({ ok }) => ok) ? 0 : 1
      return
    }
    case 'test':
    case 'bench':
      if (!isCheckout) throw new Problem(`emporion ${name} works in a checkout of the sources; this is the installed package.`)
      prepare(root, isCheckout, console.log)
      process.exitCode = spawnSync(process.execPath, [join(root, OF_CHECKOUTS[name]), ...args], { stdio: 'inherit', cwd: root }).status ?? 1
      return
    case 'help':
    case '-h':
    case '--help':
      console.log(helpText(isCheckout ? './emporion' : 'emporion'))
      return
    case '--version':
      console.log(JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')).version)
      return
    default:
      if (TOOLS.includes(name)) {
        // What they print may be read by another program.
        prepare(root, isCheckout, console.error)
        process.exitCode = spawnSync(process.execPath, [join(root, 'dist', `${name}.mjs`), ...args], { stdio: 'inherit', env: { ...process.env, EMPORION_ROOT: root, EMPORION_OWN_DATA: ownData } }).status ?? 1
        return
      }
      console.error(`${helpText(isCheckout ? './emporion' : 'emporion')}\n\nNot understood: ${name}`)
      process.exitCode = NOT_UNDERSTOOD
  }
}

/**
 * @param {string} root
 * @param {boolean} isCheckout
 * @param {(line: string) => void} show
 */
function prepare(root, isCheckout, show) {
  if (!isCheckout) return
  installAndBuild(root, {
    installed: () => show('Installing packages (once, and when they change) ...'),
    built: () => show('Building (when sources have changed) ...'),
  })
}
