import { chance, fill, filter, mix, noiseBurst, spread, SYNTH_RATE, type Maker, type Random } from './parts'

interface Skin {
  readonly hz: number
  readonly seconds: number
  /** Points along a side. */
  readonly points: number
  /** Losses a second, of all frequencies alike, and a part that grows with frequency. */
  readonly loss: number
  readonly damping: number
  /** Where it is struck, from one edge to the other, and for how long, in seconds. */
  readonly place: number
  readonly touch: number
  /** How much tighter the skin is while it is moved far. */
  readonly tension: number
}

/** Of speed along the mesh; above the root of a half it is not stable. */
const FASTEST = 0.66

/**
 * A square skin held at its edges, as a mesh of points that pull at one another, heard at one of them. Source: the
 * two-dimensional wave equation by finite differences, with losses as in Bilbao, "Numerical Sound Synthesis" (from memory).
 */
function struckMesh({ hz, seconds, points, loss, damping, place, touch, tension }: Skin): Float32Array {
  const slower = Math.max(1, Math.floor(SYNTH_RATE / (hz * points * 2.3)))
  const rate = SYNTH_RATE / slower
  const speed = Math.min(FASTEST, hz * 2 * points / Math.SQRT2 / rate)
  const width = points + 1
  const struck = width * (1 + Math.floor(place * (points - 2))) + 1 + Math.floor(0.45 * (points - 2))
  const listened = width * Math.floor(points * 0.62) + Math.floor(points * 0.38)
  const touchSteps = Math.max(2, Math.round(touch * rate))
  let now = new Float32Array(width * width)
  let before = new Float32Array(width * width)
  let next = new Float32Array(width * width)
  const heard = new Float32Array(Math.ceil(seconds * rate))
  for (let step = 0; step < heard.length; step++) {
    const tighter = Math.min(FASTEST, speed * (1 + tension * Math.min(1, Math.abs(now[struck]!)))) ** 2
    for (let x = 1; x < points; x++) {
      for (let i = x * width + 1; i < x * width + points; i++) {
        const pull = now[i - 1]! + now[i + 1]! + now[i - width]! + now[i + width]! - 4 * now[i]!
        const pulled = before[i - 1]! + before[i + 1]! + before[i - width]! + before[i + width]! - 4 * before[i]!
        next[i] = 2 * now[i]! - before[i]! + tighter * pull + damping * (pull - pulled) - loss / rate * (now[i]! - before[i]!)
      }
    }
    if (step < touchSteps) next[struck]! += 0.5 - 0.5 * Math.cos(2 * Math.PI * step / touchSteps)
    heard[step] = next[listened]!;
    [before, now, next] = [now, next, before]
  }
  return fill(seconds, (t) => {
    const at = t * rate
    const base = Math.min(heard.length - 1, Math.floor(at))
    return heard[base]! + ((heard[base + 1] ?? 0) - heard[base]!) * (at - base)
  })
}

function meshOf(random: Random, hz: number, seconds: number, points: number, loss: readonly [number, number], touch: readonly [number, number]): Float32Array {
  const out = struckMesh({
    hz, seconds, points, loss: spread(random, ...loss), damping: spread(random, 0.0003, 0.01), place: random.between(0.3, 0.7), touch: spread(random, ...touch), tension: chance(random, 0.5) ? random.between(0, 0.2) : 0,
  })
  let peak = 0
  for (const value of out) peak = Math.max(peak, Math.abs(value))
  for (let i = 0; i < out.length; i++) out[i]! /= peak || 1
  return out
}

/** The beater, the stick or the hand itself, beside what it sets in motion. */
function withContact(random: Random, out: Float32Array, level: readonly [number, number], hz: readonly [number, number]): Float32Array {
  return mix(out, noiseBurst(random, 0.03, spread(random, 0.008, 0.04), 'band', spread(random, ...hz), random.between(0.6, 1.6)), spread(random, ...level))
}

export const meshKicks: readonly Maker[] = [
  random => withContact(random, meshOf(random, spread(random, 42, 80), spread(random, 0.25, 0.8), 12, [8, 30], [0.002, 0.008]), [0.1, 2.5], [1200, 5500]),
]

export const meshSnares: readonly Maker[] = [
  // Wires that rattle as far as the skin moves them.
  (random) => {
    const skin = meshOf(random, spread(random, 140, 280), spread(random, 0.2, 0.6), 11, [12, 60], [0.0006, 0.0025])
    const slack = random.between(0.9985, 0.9998)
    let moved = 0
    const wires = Float32Array.from(skin, (value) => {
      moved = Math.max(Math.abs(value), moved * slack)
      return random.noise() * moved
    })
    return withContact(random, mix(skin, filter(wires, 'high', spread(random, 700, 3500)), spread(random, 0.3, 3)), [0.05, 0.8], [1500, 6000])
  },
]

export const meshToms: readonly Maker[] = [
  random => withContact(random, meshOf(random, spread(random, 65, 240), spread(random, 0.4, 1.6), 11, [3, 18], [0.001, 0.005]), [0.02, 0.8], [1200, 5000]),
]

export const meshHands: readonly Maker[] = [
  random => withContact(random, meshOf(random, spread(random, 170, 520), spread(random, 0.15, 0.7), 8, [8, 45], [0.0008, 0.005]), [0.02, 0.8], [700, 3500]),
]
