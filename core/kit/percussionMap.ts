import { topKind } from '../search/kinds'

/** The percussion key map, keys 35 to 81. Source: General MIDI System Level 1, "Percussion Key Map". */
export const PERCUSSION_KEYS: Readonly<Record<number, string>> = {
  35: 'Acoustic Bass Drum',
  36: 'Bass Drum 1',
  37: 'Side Stick',
  38: 'Acoustic Snare',
  39: 'Hand Clap',
  40: 'Electric Snare',
  41: 'Low Floor Tom',
  42: 'Closed Hi-Hat',
  43: 'High Floor Tom',
  44: 'Pedal Hi-Hat',
  45: 'Low Tom',
  46: 'Open Hi-Hat',
  47: 'Low-Mid Tom',
  48: 'Hi-Mid Tom',
  49: 'Crash Cymbal 1',
  50: 'High Tom',
  51: 'Ride Cymbal 1',
  52: 'Chinese Cymbal',
  53: 'Ride Bell',
  54: 'Tambourine',
  55: 'Splash Cymbal',
  56: 'Cowbell',
  57: 'Crash Cymbal 2',
  58: 'Vibraslap',
  59: 'Ride Cymbal 2',
  60: 'Hi Bongo',
  61: 'Low Bongo',
  62: 'Mute Hi Conga',
  63: 'Open Hi Conga',
  64: 'Low Conga',
  65: 'High Timbale',
  66: 'Low Timbale',
  67: 'High Agogo',
  68: 'Low Agogo',
  69: 'Cabasa',
  70: 'Maracas',
  71: 'Short Whistle',
  72: 'Long Whistle',
  73: 'Short Guiro',
  74: 'Long Guiro',
  75: 'Claves',
  76: 'Hi Wood Block',
  77: 'Low Wood Block',
  78: 'Mute Cuica',
  79: 'Open Cuica',
  80: 'Mute Triangle',
  81: 'Open Triangle',
}

/** Our kinds for those keys. Source of the keys: as above. */
export const PERCUSSION_KINDS: Readonly<Record<number, string>> = {
  35: 'kick', 36: 'kick', 37: 'rim', 38: 'snare', 39: 'clap', 40: 'snare', 41: 'tom.low', 42: 'hat.closed', 43: 'tom.low', 44: 'hat.pedal', 45: 'tom.low', 46: 'hat.open',
  47: 'tom.mid', 48: 'tom.mid', 49: 'cymbal.crash', 50: 'tom.high', 51: 'cymbal.ride', 52: 'cymbal.china', 53: 'cymbal.ride', 54: 'shaker.tambourine', 55: 'cymbal.splash', 56: 'metal.cowbell',
  57: 'cymbal.crash', 58: 'effect', 59: 'cymbal.ride', 60: 'hand.bongo', 61: 'hand.bongo', 62: 'hand.conga', 63: 'hand.conga', 64: 'hand.conga', 65: 'hand.timbale', 66: 'hand.timbale',
  67: 'metal.agogo', 68: 'metal.agogo', 69: 'shaker.cabasa', 70: 'shaker.maracas', 73: 'wood.scraper', 74: 'wood.scraper', 75: 'wood.claves', 76: 'wood.block', 77: 'wood.block',
  80: 'metal.triangle', 81: 'metal.triangle',
}

/** The percussion key that stands for a kind; undefined for kinds that the map has no key for. */
export function percussionKeyOf(kind: string): number | undefined {
  const keys = Object.keys(PERCUSSION_KINDS).map(Number).filter(key => key !== 35)
  return keys.find(key => PERCUSSION_KINDS[key] === kind) ?? keys.find(key => topKind(PERCUSSION_KINDS[key]!) === topKind(kind))
}
