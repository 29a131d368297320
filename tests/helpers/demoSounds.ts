import { execFileSync } from 'node:child_process'
import { sharedFolder } from './shared'

/** The demo's sounds as they are made at its first start, to be read or copied. */
export function demoSounds(): Promise<string> {
  return sharedFolder('demo sounds', folder => void execFileSync('node', ['dist/demo.mjs', '--out', folder]))
}
