import { PADS_PER_BANK } from './document'

/** A pad's place in words: bank letter and number, `A1` to `H16`. */
export function padLabel(padIndex: number): string {
  return `${String.fromCharCode(65 + Math.floor(padIndex / PADS_PER_BANK))}${padIndex % PADS_PER_BANK + 1}`
}
