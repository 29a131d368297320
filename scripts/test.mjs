// Runs every check and ends with one line: N passed, N failed.
import { spawn, spawnSync } from 'node:child_process'
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

// All that is written on the way lies in one folder, which goes with the run: a disk is not filled by testing every day.
const scratch = mkdtempSync(join(tmpdir(), 'emp-run-'))
// Where root runs this, PostgreSQL runs as nobody, and has its files in there.
chmodSync(scratch, 0o711)
process.env.TMPDIR = scratch
process.on('exit', () => rmSync(scratch, { recursive: true, force: true }))
const reports = mkdtempSync(join(scratch, 'report-'))
// What takes long to make is made once for all tests: see tests/helpers/shared.ts.
process.env.EMPORION_TEST_SHARED = mkdtempSync(join(scratch, 'shared-'))
let passed = 0
let failed = 0

function run(title, command, args, env = {}) {
  console.log(`\n== ${title}`)
  return spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, ...env } }).status === 0
}

/** Runs side by side with others, so what it prints is shown when it has ended. */
function runAside(title, command, args) {
  return new Promise((done) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] })
    const said = []
    for (const stream of [child.stdout, child.stderr]) stream.on('data', chunk => said.push(chunk))
    child.on('error', thrown => said.push(Buffer.from(String(thrown))))
    child.on('close', (status) => {
      console.log(`\n== ${title}\n${Buffer.concat(said)}`)
      done(status === 0)
    })
  })
}

function count(good, bad, ok) {
  passed += good
  failed += bad
  // A run that ends badly without a failed test (it could not start, say) is a failure all the same.
  if (!ok && bad === 0) failed += 1
}

function readReport(path) {
  return existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : {}
}

function hasProgram(name) {
  return spawnSync('sh', ['-c', `command -v ${name}`]).status === 0
}

/** Chromium, the programs that make files for the tests, the labelled sounds that kinds are held against, and a PostgreSQL server, from Debian's packages. */
function needPrograms() {
  const wanted = { chromium: 'chromium', sox: 'sox', flac: 'flac', lame: 'lame', ffmpeg: 'ffmpeg', mpg123: 'mpg123', wavpack: 'wavpack', fluidsynth: 'fluidsynth', sf2dump: 'gigtools' }
  const sets = { '/usr/share/sounds/sf2/TimGM6mb.sf2': 'timgm6mb-soundfont', '/usr/share/midi/freepats/Drum_000': 'freepats', '/usr/lib/postgresql': 'postgresql' }
  const missing = [
    ...Object.entries(wanted).filter(([program]) => !hasProgram(program)).map(([, debian]) => debian),
    ...Object.entries(sets).filter(([path]) => !existsSync(path)).map(([, debian]) => debian),
  ]
  if (missing.length === 0) return true
  const may = process.getuid?.() === 0 && hasProgram('apt-get')
  if (may) {
    console.log(`\n== Installing ${missing.join(', ')} from Debian's packages`)
    const options = { stdio: ['ignore', 'ignore', 'inherit'], env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } }
    if (spawnSync('apt-get', ['update', '-qq'], options).status === 0 && spawnSync('apt-get', ['install', '-y', '-qq', ...missing], options).status === 0) return true
  }
  console.error(`\nThe tests need ${missing.join(', ')}. Install them (on Debian: sudo apt-get install ${missing.join(' ')}) and run this again.`)
  return false
}

const programs = needPrograms()
if (!programs) count(0, 1, false)

const checks = await Promise.all([
  ['Lint', 'npx', ['eslint', '.', '--max-warnings', '0']],
  ['Types of the app and server', 'npx', ['nuxt', 'typecheck']],
  ['Types of the core, tests and tools', 'npx', ['tsc', '-p', 'tsconfig.tools.json', '--noEmit']],
].map(([title, command, args]) => runAside(title, command, args)))
for (const ok of checks) count(ok ? 1 : 0, ok ? 0 : 1, ok)

if (programs) {
  const unitReport = join(reports, 'unit.json')
  const unitOk = run('Unit, conformance and server tests', 'npx', ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${unitReport}`])
  const unit = readReport(unitReport)
  count(unit.numPassedTests ?? 0, unit.numFailedTests ?? 0, unitOk)

  const e2eReport = join(reports, 'e2e.json')
  const e2eOk = run('End-to-end tests in Chromium', 'npx', ['playwright', 'test'], { EMPORION_REPORT: e2eReport })
  const { stats } = readReport(e2eReport)
  count(stats?.expected ?? 0, (stats?.unexpected ?? 0) + (stats?.flaky ?? 0), e2eOk)
}

console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
