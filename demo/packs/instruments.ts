import {
  bongo, clap, closedHat, conga, frameDrum, kick, openHat, pedalHat, rim, snap, snare, tom, type Drum,
} from '../synth/drums'
import { chain, china, cowbell, crash, ride, rideBell, shipsBell, splash, tambourine, triangle } from '../synth/metals'
import { claves, engineTone, gull, horn, maracas, ratchet, scraper, shaker, shout, wave, woodBlock } from '../synth/others'

/** Everything that the collective struck, blew or shook. */
export const INSTRUMENTS = {
  kickShort: kick(false),
  kickLong: kick(true),
  snare,
  rim,
  clap,
  snap,
  closedHat,
  openHat,
  pedalHat,
  tomLow: tom(70, 95),
  tomMid: tom(110, 140),
  tomHigh: tom(165, 210),
  crash,
  ride,
  rideBell,
  splash,
  china,
  bongo,
  conga,
  frameDrum,
  shaker,
  maracas,
  tambourine,
  cowbell,
  triangle,
  shipsBell,
  chain,
  woodBlock,
  claves,
  scraper,
  shout,
  horn,
  wave,
  gull,
  ratchet,
  engineLow: engineTone(33),
  engineMid: engineTone(45),
} satisfies Record<string, Drum>

export type Instrument = keyof typeof INSTRUMENTS
