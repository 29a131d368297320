import { mkdirSync, mkdtempSync, realpathSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { writeWave } from '../../core/audio/wave/write'
import { sine } from './audio'

/** A fresh folder below the system's folder for such things. */
export function freshFolder(): string {
  return realpathSync(mkdtempSync(join(tmpdir(), 'emporion-test-')))
}

/** Writes a file, with the folders that it lies in. */
export function put(folder: string, path: string, bytes: Uint8Array | string): string {
  const whole = join(folder, path)
  mkdirSync(dirname(whole), { recursive: true })
  writeFileSync(whole, bytes)
  return whole
}

/** A short WAVE of a sine, different for each pitch. */
export function waveOf(hz: number, frames = 4000): Uint8Array {
  return writeWave([sine(hz, 44_100, frames, 0.5)], 44_100, { depth: 16 })
}
