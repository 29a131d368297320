import { chance, fill, filter, mix, silence, spread, SYNTH_RATE, type Maker, type Random } from './parts'

interface Vessel {
  readonly seconds: number
  /** Collisions a second while all grains fly. */
  readonly often: number
  /** Time for what the grains were given to fall by 60 dB, and for what one collision gives, both in seconds. */
  readonly settles: number
  readonly rings: number
  /** How hard it is moved, at a time in seconds. */
  readonly moved: (t: number) => number
}

/** Grains that fly about in a vessel and hit it by chance, the fewer the less they move. Source: Cook, "Physically informed sonic modeling" (1997, from memory). */
function collisions(random: Random, { seconds, often, settles, rings, moved }: Vessel): Float32Array {
  const keeps = 10 ** (-3 / (settles * SYNTH_RATE))
  const keepsRinging = 10 ** (-3 / (rings * SYNTH_RATE))
  let energy = 0
  let level = 0
  return fill(seconds, (t) => {
    energy = energy * keeps + moved(t)
    if (random.between(0, 1) < often / SYNTH_RATE) level += energy * random.between(0.3, 1)
    level *= keepsRinging
    return level * random.noise()
  })
}

/** What the wall of the vessel answers with: one or several bands. */
function walls(random: Random, samples: Float32Array, count: number, low: number, high: number, q: readonly [number, number]): Float32Array {
  const out = silence(samples.length / SYNTH_RATE)
  for (let i = 0; i < count; i++) mix(out, filter(samples.slice(), 'band', spread(random, low, high), spread(random, ...q)), random.between(0.4, 1))
  return out
}

export const particleShakers: readonly Maker[] = [
  // One jerk, of few or many grains.
  (random) => {
    const jerk = spread(random, 0.005, 0.09)
    const seconds = jerk + spread(random, 0.05, 0.3)
    const out = collisions(random, { seconds, often: spread(random, 800, 12_000), settles: spread(random, 0.03, 0.2), rings: spread(random, 0.001, 0.008), moved: t => t < jerk ? Math.sin(Math.PI * t / jerk) : 0 })
    return filter(walls(random, out, 1 + Math.floor(random.between(0, 2)), 2500, 9000, [0.7, 4]), 'high', spread(random, 800, 3500))
  },
  // Jingles: what rings has narrow bands, high up.
  (random) => {
    const jerk = spread(random, 0.003, 0.04)
    const seconds = spread(random, 0.15, 0.6)
    const out = collisions(random, { seconds, often: spread(random, 300, 3000), settles: spread(random, 0.1, 0.6), rings: spread(random, 0.004, 0.03), moved: t => t < jerk ? 1 : 0 })
    return walls(random, out, 3, 2200, 11_000, [6, 40])
  },
  // There and back.
  (random) => {
    const half = spread(random, 0.05, 0.16)
    const back = random.between(0.3, 1.2)
    const out = collisions(random, { seconds: half * 2 + 0.08, often: spread(random, 1500, 15_000), settles: spread(random, 0.02, 0.08), rings: spread(random, 0.001, 0.006), moved: t => t < half ? (t / half) ** 2 : t < half * 2 ? back * ((t - half) / half) ** 2 : 0 })
    return filter(walls(random, out, 1, 3500, 9500, [0.6, 2.5]), 'high', spread(random, 1500, 4500))
  },
]

export const particleWoods: readonly Maker[] = [
  // Few seeds in a pod, or a rattle of wood: each hit of its own.
  (random) => {
    const jerk = spread(random, 0.02, 0.1)
    const out = collisions(random, { seconds: spread(random, 0.25, 0.6), often: spread(random, 60, 250), settles: spread(random, 0.2, 0.6), rings: spread(random, 0.003, 0.012), moved: t => t < jerk ? 1 : 0 })
    const answered = walls(random, out, 2, 900, 4500, [2, 12])
    return chance(random, 0.5) ? filter(answered, 'high', spread(random, 400, 1200)) : answered
  },
]
