import { articulationAt } from './articulations'
import { MOST_ARTICULATIONS, type Articulation, type Kit } from './document'
import { mapPads } from './edits'
import { setAlternate } from './layerEdits'

/** Adds an articulation on a key, with a name that is free. The kit itself when it is full. */
export function addArticulation(kit: Kit, key: number | null): Kit {
  if (kit.articulations.length >= MOST_ARTICULATIONS) return kit
  const [ids, names] = [kit.articulations.map(({ id }) => id), kit.articulations.map(({ name }) => name)]
  const free = (taken: readonly string[], before: string) => Array.from({ length: MOST_ARTICULATIONS }, (_, i) => `${before}${i + 1}`).find(one => !taken.includes(one))!
  return { ...kit, articulations: [...kit.articulations, { id: free(ids, 'articulation-'), name: free(names, 'Articulation '), key, whileHeld: false }] }
}

export function changeArticulation(kit: Kit, id: string, change: Partial<Omit<Articulation, 'id'>>): Kit {
  return { ...kit, articulations: kit.articulations.map(one => one.id === id ? { ...one, ...change } : one) }
}

/** Takes an articulation away; its pads sound in all then. */
export function removeArticulation(kit: Kit, id: string): Kit {
  const pads = mapPads(kit, kit.pads.map((_, index) => index), pad => pad.articulation === id ? { ...pad, articulation: null } : pad)
  return { ...pads, articulations: kit.articulations.filter(one => one.id !== id), articulation: kit.articulation === id ? null : kit.articulation }
}

/** Sets the articulation that is in force before any is chosen. */
export function setArticulation(kit: Kit, id: string | null): Kit {
  return kit.articulation === id ? kit : { ...kit, articulation: id }
}

/** Gives a choke group a number of voices of its own, or by null none. */
export function setGroupVoices(kit: Kit, group: number, voices: number | null): Kit {
  const others = kit.groupPolyphony.filter(one => one.group !== group)
  return { ...kit, groupPolyphony: voices === null ? others : [...others, { group, voices: Math.max(1, Math.min(256, Math.round(voices))) }].sort((a, b) => a.group - b.group) }
}

/** What moving a MIDI controller does: pads that listen to it choose another alternate, the kit another articulation. The kit itself where nothing listens. */
export function moveController(kit: Kit, controller: number, value: number): Kit {
  const listening = kit.pads.flatMap((pad, index) => pad.alternateController === controller && pad.alternate !== null ? [index] : [])
  const chosen = listening.reduce((now, index) => setAlternate(now, index, value), kit)
  return kit.articulationController === controller ? setArticulation(chosen, articulationAt(kit, value)?.id ?? null) : chosen
}
