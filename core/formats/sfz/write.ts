import { PADS_PER_BANK, type Kit, type Layer, type Pad } from '../../kit/document'

/** Where a layer's audio lies, relative to the SFZ file. */
export interface SfzSample {
  readonly path: string
  /** The file holds just the trimmed part, already reversed (SFZ v1 knows no reverse). */
  readonly baked: boolean
}

/**
 * Writes a kit as SFZ v1: one region a layer, with comments that name the pads. Gain, pan, tune, trims, velocity
 * ranges, choke groups and one-shot or gated playing are carried over.
 * Source: SFZ v1 opcodes (`references.md`); `end` is the last frame that sounds.
 *
 * @param sampleOf the file of a layer
 */
export function writeSfz(kit: Kit, sampleOf: (layer: Layer) => SfzSample): string {
  const lines = [
    `// ${oneLine(kit.name)}`,
    `// ${kit.pads.filter(pad => pad.layers.length > 0).length} pads, written by Emporion`,
    '',
  ]
  kit.pads.forEach((pad, padIndex) => {
    if (pad.layers.length === 0) return
    lines.push(`// Pad ${padLabel(padIndex)}, note ${pad.note}: ${oneLine(pad.name)}`)
    for (const layer of pad.layers) lines.push(region(pad, layer, sampleOf(layer)))
    lines.push('')
  })
  return lines.join('\n')
}

/** A pad's place in words: bank letter and number, `A1` to `H16`. */
export function padLabel(padIndex: number): string {
  return `${String.fromCharCode(65 + Math.floor(padIndex / PADS_PER_BANK))}${padIndex % PADS_PER_BANK + 1}`
}

function region(pad: Pad, layer: Layer, sample: SfzSample): string {
  const cents = Math.round(pad.tuneCents + layer.tuneCents)
  const transpose = Math.trunc(cents / 100)
  const opcodes: (string | false)[] = [
    `key=${pad.note}`,
    `pitch_keycenter=${pad.note}`,
    layer.lowVelocity > 1 && `lovel=${layer.lowVelocity}`,
    layer.highVelocity < 127 && `hivel=${layer.highVelocity}`,
    pad.gainDb + layer.gainDb !== 0 && `volume=${number(pad.gainDb + layer.gainDb)}`,
    pad.pan !== 0 && `pan=${number(pad.pan * 100)}`,
    transpose !== 0 && `transpose=${transpose}`,
    cents % 100 !== 0 && `tune=${cents % 100}`,
    `loop_mode=${pad.play === 'gated' ? 'no_loop' : 'one_shot'}`,
    !sample.baked && layer.startFrame > 0 && `offset=${layer.startFrame}`,
    !sample.baked && layer.endFrame < layer.sound.frames && `end=${layer.endFrame - 1}`,
    pad.chokeGroup !== null && `group=${pad.chokeGroup} off_by=${pad.chokeGroup} off_mode=fast`,
  ]
  return `<region> ${opcodes.filter(Boolean).join(' ')}\nsample=${sample.path}`
}

function number(value: number): string {
  return String(Number(value.toFixed(3)))
}

function oneLine(text: string): string {
  return text.replace(/[\r\n]+/g, ' ')
}
