import { toDb } from '~~/core/audio/level'

export { counted, whole } from '~~/core/wording'

const dateAndTime = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' })

/** Seconds with two digits behind the point. */
export function seconds(value: number): string {
  return `${value.toFixed(2)} s`
}

/** Decibels with one digit; silence is shown as such. */
export function decibels(value: number): string {
  return Number.isFinite(value) ? `${value.toFixed(1)} dB` : 'silent'
}

/** A peak of full scale 1 in dBFS. */
export function peakDb(peak: number): string {
  return peak > 0 ? `${toDb(peak).toFixed(1)} dBFS` : 'silent'
}

/** Bytes in MB of 10^6, or kB where they are few. */
export function megabytes(bytes: number): string {
  return bytes < 100_000 ? `${(bytes / 1e3).toFixed(1)} kB` : `${(bytes / 1e6).toFixed(1)} MB`
}

/** A sample rate in kHz: 44.1 kHz. */
export function kilohertz(rate: number): string {
  return `${(rate / 1000).toFixed(rate % 1000 === 0 ? 0 : rate % 100 === 0 ? 1 : 2)} kHz`
}

/** A tempo as a bare number, with the digits behind the point that it was stated with, two at most: 92.5. */
export function tempoShown(bpm: number): number {
  return Number(bpm.toFixed(2))
}

/** A tempo: 92.5 BPM. */
export function beatsAMinute(bpm: number): string {
  return `${tempoShown(bpm)} BPM`
}

/** A time left, roughly. */
export function timeLeft(value: number): string {
  if (value < 60) return `${Math.ceil(value)} s left`
  return `${Math.ceil(value / 60)} min left`
}

/** A date and time of day. */
export function moment(iso: string): string {
  return dateAndTime.format(new Date(iso))
}

/** A loudness in LUFS with one digit. */
export function lufs(value: number | null): string {
  return value === null ? '–' : `${value.toFixed(1)} LUFS`
}

/** Decibels with their sign. */
export function signedDb(value: number): string {
  return `${value > 0 ? '+' : ''}${value.toFixed(1)} dB`
}

/** A family of strokes as it is called: one that is named by its folder alone ends in a sign. */
export function familyLabel(family: string): string {
  return family.replace(/\/$/, '')
}
