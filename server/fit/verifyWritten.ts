import { readdir } from 'node:fs/promises'
import { basename, extname, join, relative } from 'node:path'
import { AUDIO_EXTENSIONS } from '../../core/audio/extensions'
import { messageOf } from '../../core/errors'
import { bytesOfDepth } from '../../core/formats/write'
import { isLossless, type Target } from '../../core/fit/target'
import { overOf, usageOfKit } from '../../core/fit/usage'
import { meterWords, METER_NAMES, rateWords } from '../../core/fit/words'
import { anywhere } from '../base/opener'
import { decodeFile } from '../library/analyse'
import { readForeign } from './foreign'
import type { Steering } from './loadedKit'
import { counted } from '../../core/wording'

/** What was found of a folder that was written for a target. */
export interface VerifiedFolder {
  readonly kit: string
  readonly pads: number
  readonly samples: number
  /** One sentence each, naming the file or the limit. */
  readonly problems: readonly string[]
}

const MAIN_FILE = /\.(sfz|sf2|dls|zip)$/i
/** Longer than a limit by less than a frame's length is rounding. */
const A_FRAME = 1 / 4_000

/**
 * Checks what was written for a target against it: the kit is read back, counted against the target's limits, and every audio file
 * against what the target plays.
 *
 * @throws EmporionError `unreadable` where there is no kit in it
 */
export async function verifyWritten(folder: string, target: Target, steering: Steering): Promise<VerifiedFolder> {
  const entries = (await readdir(folder, { recursive: true, withFileTypes: true })).filter(entry => entry.isFile()).map(entry => join(entry.parentPath, entry.name)).sort()
  const main = entries.find(path => MAIN_FILE.test(path))
  const loaded = await readForeign(main ?? folder, anywhere(folder), { middleC: target.middleC }, steering)
  try {
    const usage = usageOfKit(loaded.kit, target)
    const problems = [
      ...loaded.missing,
      ...overOf(usage, target).map(({ meter, used, room }) => `${METER_NAMES[meter]}: ${meterWords(meter, used, target)}, of ${meterWords(meter, room, target)}.`),
      ...loaded.kit.pads.flatMap(({ layers, note }) => layers.length > 0 && (note < target.notes.first || note > target.notes.last) ? [`A pad lies on note ${note}; ${target.name} has ${target.notes.first} to ${target.notes.last}.`] : []),
    ]
    if (!isLossless(target)) {
      for (const path of entries.filter(path => AUDIO_EXTENSIONS.includes(extname(path).slice(1).toLowerCase()))) problems.push(...await fileProblems(path, relative(folder, path), target))
    }
    return { kit: loaded.kit.name, pads: usage.pads, samples: usage.samples, problems }
  }
  finally {
    await loaded.close()
  }
}

async function fileProblems(path: string, shown: string, { name, audio, names, limits }: Target): Promise<string[]> {
  const problems: string[] = []
  const stem = basename(path, extname(path))
  if (stem.length > names.longest) problems.push(`${shown}: the name has ${counted(stem.length, 'character')}; ${name} takes ${names.longest}.`)
  try {
    const { channels, sampleRate, frames, facts } = await decodeFile(path, anywhere(path))
    if (channels.length > audio.channels) problems.push(`${shown}: ${counted(channels.length, 'channel')}; ${name} takes ${audio.channels}.`)
    if (audio.rates.length > 0 ? !audio.rates.includes(sampleRate) : sampleRate > audio.highestRate) problems.push(`${shown}: ${rateWords(sampleRate)} kHz; ${name} takes ${audio.rates.length > 0 ? audio.rates.map(rateWords).join(', ') : `up to ${rateWords(audio.highestRate)}`}.`)
    if (!audio.depths.some(depth => depth === 'float' ? facts.codec === 'float' : bytesOfDepth(depth) * 8 === facts.bitDepth)) problems.push(`${shown}: ${facts.bitDepth} bit; ${name} takes ${audio.depths.join(', ')}.`)
    if (limits.longestSeconds !== null && frames / sampleRate > limits.longestSeconds + A_FRAME) problems.push(`${shown}: ${(frames / sampleRate).toFixed(2)} s; ${name} takes ${limits.longestSeconds} s.`)
  }
  catch (thrown) {
    problems.push(`${shown}: ${messageOf(thrown)}`)
  }
  return problems
}
