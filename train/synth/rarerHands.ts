import { addModes, chance, fallingTone, filter, manyModes, mix, modesAt, silence, spread, touch, wash, type Maker } from './parts'
import { skin } from './skins'


export const rarerHands: readonly Maker[] = [
  // Of a machine: a plain tone without a skin's noise, hardly falling, short.
  (random) => {
    const hz = spread(random, 150, 620)
    const t60 = spread(random, 0.06, 0.4)
    const out = fallingTone(t60 * 1.2, hz * random.between(1, 1.2), hz, spread(random, 0.003, 0.02), t60, chance(random, 0.2) ? random.between(0, 0.3) : 0)
    return touch(random, out, random.between(0, 0.3), 800, 5000)
  },
  // A clay cup with a thin skin: the edge rings high and clear, or the middle booms.
  (random) => {
    if (chance(random, 0.35)) {
      const hz = spread(random, 70, 140)
      const t60 = spread(random, 0.2, 0.8)
      const out = fallingTone(t60, hz * random.between(1, 1.3), hz, 0.03, t60)
      mix(out, skin(random, hz * random.between(2, 4), t60 * 0.3, 1), random.between(0.05, 0.4))
      return touch(random, out, random.between(0.1, 0.8), 500, 4000)
    }
    const hz = spread(random, 280, 900)
    const t60 = spread(random, 0.08, 0.5)
    const out = addModes(silence(t60 * 1.2), modesAt(random, hz, [1, random.between(1.5, 1.7), 2.1, random.between(2.5, 3), 3.5, 4.4], t60, random.between(-0.2, 0.8), random.between(0.1, 0.6)))
    return touch(random, out, random.between(0.2, 1.2), 1500, 7000)
  },
  // Tuned by a paste of flour on the skin: its tones stand in harmony; the low one bends.
  (random) => {
    if (chance(random, 0.3)) {
      const hz = spread(random, 70, 130)
      const t60 = spread(random, 0.3, 0.9)
      return touch(random, fallingTone(t60, hz * random.between(0.6, 1), hz * random.between(1, 1.6), spread(random, 0.05, 0.3), t60), random.between(0.1, 0.8), 300, 2500)
    }
    const hz = spread(random, 220, 420)
    const t60 = spread(random, 0.2, 1.2)
    const out = addModes(silence(t60), modesAt(random, hz, [1, 2, 3, 4, 5], t60, random.between(-0.2, 0.9), random.between(0.1, 0.5)))
    return touch(random, out, random.between(0.2, 1.2), 1500, 6000)
  },
  // A box to sit on: low in its middle, wires at its edge.
  (random) => {
    const hz = spread(random, 65, 200)
    const t60 = spread(random, 0.08, 0.3)
    const out = addModes(silence(t60 * 1.3), modesAt(random, hz, [1, random.between(1.6, 2.4), random.between(2.6, 3.6), random.between(4, 5)], t60, random.between(0.2, 1.4), 0.4))
    mix(out, wash(random, t60 * 1.3, 0, t60 * random.between(0.3, 1), spread(random, 400, 2000), spread(random, 4000, 11_000)), random.between(0.05, 1))
    return touch(random, out, random.between(0.3, 1.6), 600, 5000)
  },
  // A large skin on a barrel: open, with the palm's slap and the room in the wood.
  (random) => {
    const hz = spread(random, 130, 330)
    const t60 = spread(random, 0.15, 0.8)
    const out = skin(random, hz, t60, random.between(0.3, 1.3))
    mix(out, fallingTone(out.length / 48_000, hz * random.between(1, 1.06), hz, 0.015, t60 * random.between(0.5, 1)), random.between(0.3, 1.2))
    addModes(out, modesAt(random, hz * random.between(2.2, 3.6), [1, 1.35, 1.8], t60 * random.between(0.15, 0.4), 0.3, 0.3), random.between(0.1, 0.7))
    return touch(random, out, random.between(0.3, 1.8), 700, 4000)
  },
  // Small and tight, played with the fingers: its tones stand high, with little below them.
  (random) => {
    const hz = spread(random, 350, 1100)
    const t60 = spread(random, 0.06, 0.35)
    const out = skin(random, hz, t60, random.between(-0.1, 0.8))
    mix(out, wash(random, out.length / 48_000, 0, t60 * random.between(0.2, 0.8), hz, spread(random, 3000, 9000)), random.between(0.02, 0.4))
    touch(random, out, random.between(0.2, 1.2), 1000, 6000)
    return filter(out, 'high', hz * random.between(0.4, 0.9))
  },
  // A shallow drum of brass: the shell rings on above the skin, for long.
  (random) => {
    const hz = spread(random, 180, 480)
    const t60 = spread(random, 0.4, 1.6)
    const out = skin(random, hz, t60 * random.between(0.3, 0.8), random.between(0.2, 1))
    mix(out, addModes(silence(out.length / 48_000), manyModes(random, 12 + Math.floor(random.between(0, 20)), hz * random.between(1.5, 3), spread(random, 3000, 7000), t60, random.between(0.1, 0.4))), random.between(0.5, 2.5))
    return touch(random, out, random.between(0.2, 1.2), 1500, 7000)
  },
  // The palm stays where it fell: a knock without a tone below.
  (random) => {
    const hz = spread(random, 500, 1300)
    const t60 = spread(random, 0.03, 0.14)
    const out = addModes(silence(t60 * 1.6), modesAt(random, hz, [0.45, 0.7, 1, 1.35, 1.8, 2.4, 3.1], t60, random.between(-0.2, 0.5), random.between(0.1, 0.5)))
    mix(out, wash(random, t60 * 1.5, 0, t60, spread(random, 300, 800), spread(random, 3000, 8000)), random.between(0.1, 1))
    return touch(random, out, random.between(0.4, 1.8), 800, 4000)
  },
]
