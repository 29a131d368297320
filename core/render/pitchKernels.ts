import { sincKernel, type SincKernel } from '../audio/sinc'
import { workspace } from './workspace'

const ZERO_CROSSINGS = 16
const KAISER_BETA = 9
const PHASES = 256
const PASS_BAND = 0.95
/** Kernels an octave of upward pitch; each serves the ratios below it. */
const STEPS_PER_OCTAVE = 4
/** 4,800 cents of a pad and as many of a layer. */
const OCTAVES = 8

const kernels = new Map<number, SincKernel>()
/**
 * The kernel to play at a speed of `ratio` without aliasing: its cutoff falls as the speed rises, in quarters of an octave.
 * Made on first use; `preparePitchKernels` makes the usual ones ahead, where the audio thread must not wait.
 */
export function pitchKernel(ratio: number): SincKernel {
  const step = ratio <= 1 ? 0 : Math.min(OCTAVES * STEPS_PER_OCTAVE, Math.ceil(Math.log2(ratio) * STEPS_PER_OCTAVE - 1e-9))
  const known = kernels.get(step)
  if (known) return known
  const made = sincKernel(ZERO_CROSSINGS, PASS_BAND / 2 ** (step / STEPS_PER_OCTAVE), KAISER_BETA, PHASES)
  kernels.set(step, made)
  return made
}

/** Makes the kernels for up to two octaves of upward pitch. */
export function preparePitchKernels(): void {
  for (let step = 0; step <= 2 * STEPS_PER_OCTAVE; step++) workspace().prepare(pitchKernel(2 ** (step / STEPS_PER_OCTAVE)))
}
