/** Generators by their numbers. Source: SoundFont 2.04, 8.1.2. */
export const GENERATOR = {
  startOffset: 0, endOffset: 1, startLoopOffset: 2, endLoopOffset: 3, startCoarse: 4, endCoarse: 12, startLoopCoarse: 45, endLoopCoarse: 50,
  modLfoToPitch: 5, vibLfoToPitch: 6, modEnvToPitch: 7, filterCutoff: 8, filterQ: 9, modLfoToFilter: 10, modEnvToFilter: 11, modLfoToVolume: 13,
  chorus: 15, reverb: 16, pan: 17, delayModEnv: 25, attackModEnv: 26, decayModEnv: 28, sustainModEnv: 29,
  delayVolEnv: 33, attackVolEnv: 34, holdVolEnv: 35, decayVolEnv: 36, sustainVolEnv: 37, releaseVolEnv: 38, keyToHold: 39, keyToDecay: 40,
  instrument: 41, keyRange: 43, velocityRange: 44, keynum: 46, velocity: 47, attenuation: 48, coarseTune: 51, fineTune: 52, sampleId: 53, sampleModes: 54,
  scaleTuning: 56, exclusiveClass: 57, rootKey: 58,
} as const

/** Values where neither preset nor instrument says any; 0 for all others. Source: SoundFont 2.04, 8.1.3. */
export const DEFAULTS: Readonly<Record<number, number>> = {
  [GENERATOR.filterCutoff]: 13_500,
  21: -12_000, 23: -12_000, [GENERATOR.delayModEnv]: -12_000, [GENERATOR.attackModEnv]: -12_000, 27: -12_000, [GENERATOR.decayModEnv]: -12_000, 30: -12_000,
  [GENERATOR.delayVolEnv]: -12_000, [GENERATOR.attackVolEnv]: -12_000, [GENERATOR.holdVolEnv]: -12_000, [GENERATOR.decayVolEnv]: -12_000, [GENERATOR.releaseVolEnv]: -12_000,
  [GENERATOR.keynum]: -1, [GENERATOR.velocity]: -1, [GENERATOR.rootKey]: -1,
  [GENERATOR.scaleTuning]: 100,
}

/** Generators that only instruments have; in a preset they are passed over. Source: SoundFont 2.04, 8.5. */
export const INSTRUMENT_ONLY: ReadonlySet<number> = new Set([0, 1, 2, 3, 4, 12, 45, 46, 47, 50, 54, 57, 58])

/**
 * Of the attenuation that a bank states, players apply four tenths: so do the synthesisers that most banks were made on and by ear
 * for (common practice). Taken as stated, quiet zones would be far too quiet.
 */
export const ATTENUATION_PLAYED = 0.4

/** What modulators usually lead to, and no drum needs: vibrato, pan by controller, effects. Source: SoundFont 2.04, 8.4. */
export const USUAL_MODULATIONS: ReadonlySet<number> = new Set([GENERATOR.modLfoToPitch, GENERATOR.vibLfoToPitch, GENERATOR.chorus, GENERATOR.reverb, GENERATOR.pan])
