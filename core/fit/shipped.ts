import akatos from './targets/akatos.json'
import dls1 from './targets/dls-1.json'
import dls2 from './targets/dls-2.json'
import eightBanks from './targets/eight-banks.json'
import gmPercussion from './targets/gm-percussion.json'
import holkas from './targets/holkas.json'
import kerkouros from './targets/kerkouros.json'
import lembos from './targets/lembos.json'
import oneLayer from './targets/one-layer.json'
import kitPackage from './targets/package.json'
import samples from './targets/samples.json'
import sf2 from './targets/sf2.json'
import sfz from './targets/sfz.json'
import sixteenPads from './targets/sixteen-pads.json'
import sixteenPadsWide from './targets/sixteen-pads-wide.json'
import { targetSchema, type Target } from './target'

/** Targets that come with Emporion: the open formats, invented devices, and devices of a general kind. */
export const SHIPPED_TARGETS: readonly Target[] = [
  kitPackage, sfz, sf2, dls2, dls1, samples,
  lembos, akatos, kerkouros, holkas,
  sixteenPads, sixteenPadsWide, eightBanks, gmPercussion, oneLayer,
].map(target => targetSchema.parse(target))

/** A shipped target by its id or its name, capitals or not; undefined for none. */
export function shippedTarget(asked: string): Target | undefined {
  const wanted = asked.trim().toLowerCase()
  return SHIPPED_TARGETS.find(target => target.id === wanted || target.name.toLowerCase() === wanted)
}
