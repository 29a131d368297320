import type { PlayedPattern } from '~~/core/groove/played'
import { differenceOf } from '~~/core/document/difference'
import { playingSoundsOf, type Kit } from '~~/core/kit/document'
import { soundsOn } from '~~/core/kit/voices'
import type { Start } from '~~/core/render/transport'
import { readySound } from './bufferCache'
import { decodeUrl, hasten, soundUrl, type Urgency } from './decoder'
import type { DecodedSound } from './decode.worker'
import type { EngineMessage, EnginePlace } from './kit.worklet'
import workletUrl from './kit.worklet.ts?worker&url'
import { useOutput, wake } from './output'

/** Decoded audio kept of sounds that are in the kit no longer. */
const MOST_SPARE_BYTES = 64_000_000

/** How far a sound of the kit is: it plays when `ready`. */
export type SoundState = 'loading' | 'ready' | { readonly missing: string }

export interface LoadedSound {
  readonly state: SoundState
  readonly outline: Int8Array | null
}

/**
 * The live engine as the page sees it: takes each state of the kit, loads the sounds it needs, plays notes.
 */
export class KitPlayer {
  private node: Promise<AudioWorkletNode> | undefined
  private sent: Kit | undefined
  private readonly loaded = new Map<string, LoadedSound>()
  /** Bytes that each loaded sound holds in the audio thread, in the order of loading. */
  private readonly bytes = new Map<string, number>()

  private run = 0
  /** Loads that are under way. */
  private readonly loading = new Map<string, Promise<void>>()

  constructor(private readonly onSound: (id: string, sound: LoadedSound) => void, private readonly onPlace: (place: EnginePlace) => void) {}

  /**
   * Hands the engine a new state of the kit and begins to load what is new in it.
   *
   * @param asked values asked of pads with alternates, by the index of the pad
   */
  setKit(kit: Kit, asked?: ReadonlyMap<number, ReadonlySet<number>>): void {
    this.sendKit(kit)
    const wanted = new Set(playingSoundsOf(kit, asked).map(sound => sound.id))
    const missing = [...wanted].filter(id => !this.loaded.has(id))
    this.measureLoading(missing.map(id => this.load(id)))
    this.forgetSpare(wanted)
  }

  /** A large kit takes the page a while to hand over, so that after the first time only what changed of it goes. */
  private sendKit(kit: Kit): void {
    const before = this.sent
    this.sent = kit
    this.send(before ? { type: 'difference', difference: differenceOf(before, kit) } : { type: 'kit', kit })
  }

  /** Notes when the first and the last of its sounds can be heard. */
  private measureLoading(loads: readonly Promise<void>[]): void {
    const start = performance.now()
    const measure = (name: string) => performance.measure(name, { start, end: performance.now() })
    void Promise.race(loads.length > 0 ? loads : [Promise.resolve()]).then(() => measure('emporion:kit-first-pad'))
    void Promise.all(loads).then(() => measure('emporion:kit-playable'))
  }

  /**
   * Sounds that left the kit stay loaded for a while, since undo may bring them back; past `MOST_SPARE_BYTES` those
   * that were loaded first go. A voice that is sounding keeps its own hold on its sound.
   */
  private forgetSpare(wanted: ReadonlySet<string>): void {
    const spare = [...this.bytes].filter(([id]) => !wanted.has(id))
    let held = spare.reduce((sum, [, bytes]) => sum + bytes, 0)
    for (const [id, bytes] of spare) {
      if (held <= MOST_SPARE_BYTES) return
      held -= bytes
      this.bytes.delete(id)
      this.loaded.delete(id)
      this.send({ type: 'forget', id })
    }
  }

  /** Tries again to load sounds that were missing: their files may be back. */
  retryMissing(): void {
    for (const [id, sound] of this.loaded) {
      if (typeof sound.state === 'object') void this.load(id)
    }
  }

  /** Velocity 0 lets the note go. What is struck before its sounds have come is silent, but they come before the others. */
  async note(note: number, velocity: number): Promise<void> {
    if (velocity > 0) this.hastenNote(note)
    await wake()
    this.send({ type: 'note', note, velocity })
  }

  private hastenNote(note: number): void {
    for (const pad of this.sent?.pads ?? []) {
      if (!soundsOn(pad, note)) continue
      for (const { sound } of pad.layers) if (this.loaded.get(sound.id)?.state === 'loading') hasten(soundUrl(sound.id))
    }
  }

  /** Makes sure that a sound is in the engine; false where it can't be. */
  async ensure(id: string, urgency: Urgency = 'now'): Promise<boolean> {
    const state = this.loaded.get(id)?.state
    if (urgency === 'now' && state === 'loading') hasten(soundUrl(id))
    if (state !== 'ready') await this.load(id, urgency)
    return this.loaded.get(id)?.state === 'ready'
  }

  /** Plays a pattern from its beginning in a loop. */
  async start(pattern: PlayedPattern, start: Start): Promise<void> {
    await wake()
    this.send({ type: 'start', pattern, start, run: ++this.run })
  }

  /** Goes on with other notes from the same place. */
  change(pattern: PlayedPattern, bpm: number): void {
    this.send({ type: 'change', pattern, bpm })
  }

  /** Lets another pattern follow with the next bar. */
  changeAtBar(pattern: PlayedPattern, bpm: number): void {
    this.send({ type: 'change-at-bar', pattern, bpm })
  }

  /** Whether a pattern ends with its end, in place of beginning anew. */
  setOnce(isOnce: boolean): void {
    this.send({ type: 'once', isOnce })
  }

  setMetronome(isOn: boolean): void {
    this.send({ type: 'metronome', isOn })
  }

  /** Ends the pattern; what sounds rings out. */
  end(): void {
    this.send({ type: 'end' })
  }

  stop(): void {
    this.send({ type: 'stop' })
  }

  private load(id: string, urgency: Urgency = 'soon'): Promise<void> {
    const known = this.loading.get(id)
    if (known) return known
    const load = this.loadNow(id, urgency).finally(() => this.loading.delete(id))
    this.loading.set(id, load)
    return load
  }

  private async loadNow(id: string, urgency: Urgency): Promise<void> {
    this.report(id, { state: 'loading', outline: null })
    try {
      const { context } = useOutput()
      const sound = heardBefore(id, context.sampleRate) ?? await decodeUrl(soundUrl(id), context.sampleRate, urgency)
      this.bytes.set(id, sound.channels.reduce((sum, channel) => sum + channel.byteLength, 0))
      this.send({ type: 'sound', id, channels: sound.channels, sourceRate: sound.sampleRate })
      this.report(id, { state: 'ready', outline: sound.outline })
    }
    catch (thrown) {
      this.report(id, { state: { missing: thrown instanceof Error ? thrown.message : String(thrown) }, outline: null })
    }
  }

  private report(id: string, sound: LoadedSound): void {
    this.loaded.set(id, sound)
    this.onSound(id, sound)
  }

  private send(message: EngineMessage): void {
    this.node ??= this.open()
    const transfer = message.type === 'sound' ? message.channels.map(channel => channel.buffer as ArrayBuffer) : []
    void this.node.then(node => node.port.postMessage(message, transfer))
  }

  private async open(): Promise<AudioWorkletNode> {
    const { context, input } = useOutput()
    await context.audioWorklet.addModule(workletUrl)
    const node = new AudioWorkletNode(context, 'emporion-kit', { numberOfInputs: 0, numberOfOutputs: 1, outputChannelCount: [2] })
    node.port.onmessage = (event: MessageEvent<EnginePlace>) => {
      // What a former start still has to say is past.
      if (event.data.run === this.run) this.onPlace(event.data)
    }
    node.connect(input)
    return node
  }
}

/** A sound that the page has decoded to be auditioned, where it is at the engine's rate already. */
function heardBefore(id: string, rate: number): Pick<DecodedSound, 'channels' | 'sampleRate' | 'outline'> | undefined {
  const heard = readySound(soundUrl(id))
  if (!heard || heard.buffer.sampleRate !== rate) return undefined
  const { buffer, outline } = heard
  return { channels: Array.from({ length: buffer.numberOfChannels }, (_, channel) => buffer.getChannelData(channel).slice()), sampleRate: rate, outline: new Int8Array(outline) }
}
