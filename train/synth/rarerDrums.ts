import { drive } from '../../demo/synth/dsp'
import { addModes, chance, decay, fallingTone, fill, filter, gate, mix, modesAt, noiseBurst, silence, soften, spread, touch, wash, type Maker } from './parts'
import { skin } from './skins'


export const rarerKicks: readonly Maker[] = [
  // Large and open, played softly: it rings, with little of the beater.
  (random) => {
    const hz = spread(random, 45, 105)
    const t60 = spread(random, 0.3, 1.4)
    const out = skin(random, hz, t60, random.between(1, 2.4))
    mix(out, fallingTone(out.length / 48_000, hz * random.between(1, 1.25), hz, 0.03, t60), random.between(0.5, 1.5))
    mix(out, wash(random, out.length / 48_000, 0.003, t60 * random.between(0.2, 0.7), 80, spread(random, 300, 1500)), spread(random, 0.02, 0.3))
    return soften(filter(touch(random, out, random.between(0.05, 0.6), 400, 2500), 'low', spread(random, 500, 5000)), spread(random, 0.0005, 0.006))
  },
  // Two falls, one after the other: a quick one that clicks, a slow one that sinks; folded over, with noise on its back.
  (random) => {
    const end = spread(random, 32, 70)
    const t60 = spread(random, 0.15, 1.2)
    let phase = 0
    const [click, sink] = [spread(random, 300, 4000), end * spread(random, 1, 3.5)]
    const [clickTime, sinkTime] = [spread(random, 0.001, 0.008), spread(random, 0.03, 0.25)]
    const out = fill(t60 * 1.1, (t) => {
      phase += 2 * Math.PI * (end + (sink - end) * Math.exp(-t / sinkTime) + click * Math.exp(-t / clickTime)) / 48_000
      return Math.sin(phase) * decay(t, t60)
    })
    if (chance(random, 0.5)) drive(out, spread(random, 1.5, 25))
    if (chance(random, 0.4)) mix(out, noiseBurst(random, t60, t60 * random.between(0.1, 0.6), 'band', spread(random, 300, 5000), 0.6), spread(random, 0.03, 0.5))
    return chance(random, 0.4) ? filter(out, 'low', spread(random, 800, 9000)) : out
  },
  // Close to the skin: hardly any tone, a hard click.
  (random) => {
    const hz = spread(random, 50, 85)
    const t60 = spread(random, 0.06, 0.3)
    const out = skin(random, hz, t60, random.between(0.2, 1.2))
    mix(out, noiseBurst(random, 0.02, spread(random, 0.003, 0.012), 'band', spread(random, 1500, 6000), random.between(0.5, 2)), random.between(0.5, 3))
    return mix(out, wash(random, t60, 0, t60 * 0.6, 60, spread(random, 200, 900)), random.between(0.1, 1))
  },
]

export const rarerSnares: readonly Maker[] = [
  // In a room whose reverberation is held, then cut off.
  (random) => {
    const hz = spread(random, 140, 260)
    const hold = spread(random, 0.09, 0.4)
    const out = silence(hold + 0.05)
    addModes(out, modesAt(random, hz, [1, 1.59, 2.14, 2.3], spread(random, 0.1, 0.3), 1, 0.6), random.between(0.5, 1.5))
    mix(out, wash(random, hold + 0.05, 0.002, spread(random, 0.1, 0.3), 300, 12_000), random.between(0.4, 1.2))
    mix(out, wash(random, hold + 0.05, 0.015, hold * spread(random, 1.5, 8), spread(random, 150, 800), spread(random, 3000, 12_000)), random.between(0.2, 0.8))
    return gate(touch(random, out, random.between(0.2, 1), 1500, 7000), hold)
  },
  // With the rim: its ring above all the rest.
  (random) => {
    const hz = spread(random, 160, 280)
    const t60 = spread(random, 0.15, 0.6)
    const out = silence(t60 * 1.2)
    addModes(out, modesAt(random, hz, [1, 1.59, 2.14, 2.65], t60, random.between(0.2, 1), 0.4), random.between(0.3, 1.2))
    addModes(out, modesAt(random, spread(random, 380, 1100), [1, random.between(1.4, 2), random.between(2.1, 2.9), random.between(3, 4.2)], t60 * random.between(0.3, 0.9), random.between(0, 0.8), 0.3), random.between(0.3, 1.5))
    mix(out, wash(random, t60, 0.001, t60 * random.between(0.4, 0.9), spread(random, 300, 2000), 15_000), random.between(0.4, 1.4))
    return touch(random, out, random.between(0.4, 1.5), 2000, 8000)
  },
  // A deep fall and noise: of instruments that sound like no drum.
  (random) => {
    const hz = spread(random, 110, 260)
    const t60 = spread(random, 0.12, 0.6)
    const out = fallingTone(t60, hz * spread(random, 2, 8), hz, spread(random, 0.008, 0.08), t60 * random.between(0.4, 1), chance(random, 0.3) ? random.between(0, 0.6) : 0)
    mix(out, noiseBurst(random, t60, t60 * random.between(0.5, 1.2), random.pick(['high', 'band']), spread(random, 500, 5000), random.between(0.4, 1)), random.between(0.4, 1.6))
    return chance(random, 0.4) ? drive(out, spread(random, 1.2, 8)) : out
  },
  // Noise and nothing else, in two parts: a crack, and what follows it.
  (random) => {
    const t60 = spread(random, 0.1, 0.5)
    const out = noiseBurst(random, t60 * 1.2, spread(random, 0.015, 0.06), 'band', spread(random, 250, 2000), random.between(0.4, 1))
    mix(out, wash(random, t60 * 1.2, 0.001, t60, spread(random, 400, 3000), spread(random, 7000, 18_000)), random.between(0.2, 1))
    return mix(out, skin(random, spread(random, 150, 300), t60 * 0.5, 1), random.between(0, 0.4))
  },
]

export const rarerRims: readonly Maker[] = [
  // A stick's click and the shell behind it.
  (random) => {
    const hz = spread(random, 1200, 3200)
    const t60 = spread(random, 0.015, 0.06)
    const out = addModes(silence(0.18), modesAt(random, hz, [1, random.between(1.3, 1.7), random.between(1.9, 2.6)], t60, random.between(-0.3, 0.6), 0.2))
    addModes(out, modesAt(random, spread(random, 170, 500), [1, random.between(1.5, 2.2)], spread(random, 0.03, 0.14), 0.5, 0.5), random.between(0.1, 0.9))
    return touch(random, out, random.between(0.2, 1.5), 1500, 7000)
  },
]

export const rarerToms: readonly Maker[] = [
  // Two heads that are not quite in tune: it beats, and rings for long.
  (random) => {
    const hz = spread(random, 60, 220)
    const t60 = spread(random, 0.5, 2.4) * (100 / hz) ** 0.3
    const off = random.between(1.01, 1.12)
    const out = skin(random, hz, t60, random.between(0.8, 2))
    mix(out, fallingTone(out.length / 48_000, hz * off * random.between(1, 1.15), hz * off, 0.05, t60 * random.between(0.5, 1)), random.between(0.3, 0.9))
    mix(out, wash(random, out.length / 48_000, 0.002, spread(random, 0.03, 0.3), 100, spread(random, 600, 6000)), spread(random, 0.02, 0.4))
    return touch(random, out, random.between(0.1, 1.2), 500, 5000)
  },
  // A deep fall, plain: of drums that are struck on pads.
  (random) => {
    const hz = spread(random, 55, 240)
    const t60 = spread(random, 0.25, 1.4)
    const out = fallingTone(t60, hz * spread(random, 1.8, 6), hz, spread(random, 0.05, 0.4), t60, chance(random, 0.4) ? random.between(0, 0.6) : 0)
    mix(out, noiseBurst(random, t60, t60 * random.between(0.1, 0.5), random.pick(['low', 'band']), spread(random, 500, 5000)), random.between(0, 0.5))
    return touch(random, out, random.between(0, 0.8), 800, 7000)
  },
  // Damped by tape or cloth: short, thick.
  (random) => {
    const hz = spread(random, 70, 230)
    const t60 = spread(random, 0.14, 0.4)
    const out = skin(random, hz, t60, random.between(0.4, 1.4))
    mix(out, fallingTone(out.length / 48_000, hz * spread(random, 1.05, 1.6), hz, spread(random, 0.015, 0.06), t60), random.between(0.3, 1))
    mix(out, wash(random, out.length / 48_000, 0, t60 * random.between(0.2, 0.6), 150, spread(random, 800, 6000)), spread(random, 0.05, 0.5))
    return touch(random, out, random.between(0.3, 2), 700, 6000)
  },
]

export const rarerClaps: readonly Maker[] = [
  // One pair of hands: a snap, and a little of the room.
  (random) => {
    const hz = spread(random, 700, 2600)
    const t60 = spread(random, 0.05, 0.35)
    const out = noiseBurst(random, t60 + 0.03, spread(random, 0.012, 0.05), 'band', hz, random.between(0.5, 2))
    if (chance(random, 0.5)) mix(out, noiseBurst(random, 0.05, spread(random, 0.01, 0.03), 'band', hz * random.between(0.8, 1.3), 1), random.between(0.3, 1), random.between(0.004, 0.015))
    return mix(out, wash(random, t60 + 0.03, 0.004, t60, spread(random, 400, 1200), spread(random, 3500, 10_000)), random.between(0.03, 0.4))
  },
  // Of a machine: three or four equal bursts, then a tail in the same band.
  (random) => {
    const hz = spread(random, 700, 1800)
    const q = random.between(0.8, 3)
    const gap = spread(random, 0.008, 0.014)
    const bursts = 2 + Math.floor(random.between(0, 3))
    const t60 = spread(random, 0.1, 0.5)
    const noise = fill(t60 + 0.06, (t) => {
      const burst = Math.min(bursts, Math.floor(t / gap))
      return random.noise() * (burst < bursts ? Math.exp(-(t - burst * gap) * 3 / gap) : decay(t - bursts * gap, t60))
    })
    return filter(filter(noise, 'band', hz, q), 'high', spread(random, 200, 700))
  },
]
