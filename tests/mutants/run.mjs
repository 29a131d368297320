// Puts each fault of faults.mjs into a copy of the checkout, one after the other, and looks whether its tests find it.
import { execFileSync, spawnSync } from 'node:child_process'
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { FAULTS } from './faults.mjs'

const MOST_MISSED = 3
const root = resolve(import.meta.dirname, '..', '..')
const copy = mkdtempSync(join(tmpdir(), 'emporion-mutants-'))

try {
  for (const file of execFileSync('git', ['ls-files', '-co', '--exclude-standard'], { cwd: root, encoding: 'utf8' }).trim().split('\n')) {
    if (!file.startsWith('docs/')) cpSync(join(root, file), join(copy, file), { recursive: true, force: true })
  }
  // The types that Nuxt writes are named by `tsconfig.json`.
  for (const name of ['node_modules', '.nuxt']) symlinkSync(join(root, name), join(copy, name), 'junction')
  /** @param {string} tests */
  const test = tests => spawnSync(process.execPath, [join(root, 'node_modules', 'vitest', 'vitest.mjs'), 'run', '--project', 'unit', tests], { cwd: copy, encoding: 'utf8' })
  for (const tests of new Set(FAULTS.map(fault => fault.tests))) {
    const { status, stdout, stderr } = test(tests)
    if (status !== 0) throw new Error(`${tests} does not pass without a fault:\n${stdout}${stderr}`)
  }
  const missed = FAULTS.filter(({ file, from, to, tests }, i) => {
    const path = join(copy, file)
    const whole = readFileSync(path, 'utf8')
    if (!whole.includes(from)) throw new Error(`${file} does not hold "${from}" any more: write the fault anew.`)
    writeFileSync(path, whole.replace(from, () => to))
    const isFound = test(tests).status !== 0
    writeFileSync(path, whole)
    console.log(`${String(i + 1).padStart(2)} ${isFound ? 'found ' : 'MISSED'} ${file}: ${from}`)
    return !isFound
  })
  console.log(`${FAULTS.length - missed.length} of ${FAULTS.length} faults were found.`)
  process.exitCode = missed.length > MOST_MISSED ? 1 : 0
}
finally {
  rmSync(copy, { recursive: true, force: true })
}
