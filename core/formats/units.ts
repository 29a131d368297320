/** Seconds of so many timecents: 1200 a doubling, 0 is one second. Source: SoundFont 2.04, 9.1; DLS 1.1b, 1.14. */
export function timecentsToSeconds(timecents: number): number {
  return 2 ** (timecents / 1200)
}

/** Timecents of a time, held within a range. No time at all is the lowest. */
export function secondsToTimecents(seconds: number, lowest: number, highest: number): number {
  return Math.max(lowest, Math.min(highest, Math.round(seconds > 0 ? 1200 * Math.log2(seconds) : lowest)))
}

/** Frequency of absolute cents: 6900 is 440 Hz. Source: SoundFont 2.04, 9.1; DLS 2.2. */
export function absoluteCentsToHz(cents: number): number {
  return 440 * 2 ** ((cents - 6900) / 1200)
}

export function hzToAbsoluteCents(hz: number): number {
  return Math.round(6900 + 1200 * Math.log2(hz / 440))
}

/**
 * A pair of samples panned hard to both sides sounds as loud as it is stored, while a mono sample in the middle is given to each
 * side at 3 dB less (equal-power pan, as SoundFont and DLS players have it). In a kit both play as they are stored.
 */
export const PAIR_GAIN_DB = 10 * Math.log10(2)
