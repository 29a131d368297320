import { describe, expect, it } from 'vitest'
import { kitSchema, MOST_PADS, soundsOf } from '../core/kit/document'
import { parsePattern } from '../core/groove/document'
import { assignParts } from '../core/groove/assign'
import { beyondLimits } from '../core/kit/limits'
import { SHIPPED_TARGETS } from '../core/fit/shipped'
import { limitsOf } from '../core/fit/target'
import { groupBy } from '../core/groupBy'
import { kindFromName } from '../core/search/kindFromName'
import type { KnownSound } from '../core/kit/parts'
import { allPacks } from './packs/packs'
import { demoPresets } from './presets'
import { DEMO_SEED } from './write'

/** The demo's sounds as the library would find them by their names alone. */
const known = allPacks(DEMO_SEED).filter(file => /\.(wav|aif)$/i.test(file.path)).map(({ path }, i): KnownSound & { pack: string } => ({
  pack: path.split('/')[0]!, folder: path.split('/').slice(0, -1).join('/'), kind: kindFromName(path)?.path ?? null, hitLufs: -20, pitchNote: null, statedNote: null,
  sound: { id: i.toString(16).padStart(64, '0'), name: path.split('/').at(-1)!.replace(/\.\w+$/, ''), frames: 48_000, sampleRate: 48_000, channels: 1 },
}))
const presets = demoPresets(groupBy(known, ({ pack }) => pack))
const preset = (name: string) => presets.find(one => one.name === name)!

describe('the demo\'s presets', () => {
  it('are a dozen at least, whole kits under names that are all different', () => {
    expect(presets.length).toBeGreaterThanOrEqual(12)
    expect(new Set(presets.map(({ name }) => name)).size).toBe(presets.length)
    for (const { kit, name } of presets) {
      kitSchema.parse(kit)
      expect(kit.name).toBe(name)
    }
  })

  it('have what each is to show: layers and turns, chokes one way, slices, alternates, one kind, a pack by kind', () => {
    const layers = preset('Night watch').kit.pads.flatMap(pad => pad.layers)
    expect(layers.some(layer => layer.turn !== null)).toBe(true)
    expect(layers.some(layer => layer.highVelocity < 127)).toBe(true)
    const hats = preset('Deck crew').kit.pads.filter(pad => pad.chokeGroup !== null)
    expect(hats.map(pad => [pad.role, pad.chokedBy])).toEqual(expect.arrayContaining([['hat.closed', []], ['hat.open', null]]))
    expect(preset('Bilge pump in slices').kit.pads.filter(pad => pad.layers.length > 0)).toHaveLength(16)
    expect(soundsOf(preset('Bilge pump in slices').kit)).toHaveLength(1)
    expect(preset('Gulls and shouts').kit.pads.filter(pad => pad.alternate !== null).map(pad => pad.layers.length)).toEqual([6, 8])
    expect(new Set(preset('Harbour kicks').kit.pads.filter(pad => pad.layers.length > 0).map(pad => pad.role))).toEqual(new Set(['kick']))
    expect(presets.filter(({ name }) => name.startsWith('Engine room –')).length).toBeGreaterThanOrEqual(4)
  })

  it('one is too large for every device', () => {
    const { kit } = preset('Everything aboard')
    expect(kit.pads.filter(pad => pad.layers.length > 0)).toHaveLength(MOST_PADS)
    const devices = SHIPPED_TARGETS.filter(({ id }) => ['lembos', 'akatos', 'kerkouros', 'holkas', 'sixteen-pads', 'sixteen-pads-wide'].includes(id))
    expect(devices).toHaveLength(6)
    for (const target of devices) expect(beyondLimits(kit, limitsOf(target)), target.name).not.toEqual([])
  })

  it('patterns that belong to them are heard on their pads', () => {
    const withPattern = presets.filter(({ pattern }) => pattern)
    expect(withPattern.length).toBeGreaterThanOrEqual(5)
    for (const { kit, pattern, name } of withPattern) {
      const document = parsePattern(JSON.parse(JSON.stringify(pattern!.document)))
      const pads = document.parts.map(part => assignParts(document, kit, 'kind').get(part.id))
      expect(pads.filter(pad => pad !== null && pad !== undefined && kit.pads[pad]!.layers.length > 0).length, name).toBeGreaterThan(0)
    }
  })
})
