import { applyDifference, type Difference } from '~~/core/document/difference'
import type { Kit } from '~~/core/kit/document'
import type { PlayedPattern } from '~~/core/groove/played'
import { Clicks } from '~~/core/render/clicks'
import { KitEngine } from '~~/core/render/engine'
import { Transport, type Start } from '~~/core/render/transport'

/** What the page tells the engine in the audio thread. */
export type EngineMessage =
  | { readonly type: 'kit', readonly kit: Kit }
  /** What changed of the kit since it was sent last. */
  | { readonly type: 'difference', readonly difference: Difference }
  | { readonly type: 'sound', readonly id: string, readonly channels: Float32Array[], readonly sourceRate: number }
  | { readonly type: 'forget', readonly id: string }
  | { readonly type: 'note', readonly note: number, readonly velocity: number }
  | { readonly type: 'stop' }
  /** A pattern begins; goes on with other notes; is followed by another at the next bar; ends. */
  | { readonly type: 'start', readonly pattern: PlayedPattern, readonly start: Start, readonly run: number }
  | { readonly type: 'change', readonly pattern: PlayedPattern, readonly bpm: number }
  | { readonly type: 'change-at-bar', readonly pattern: PlayedPattern, readonly bpm: number }
  | { readonly type: 'once', readonly isOnce: boolean }
  | { readonly type: 'end' }
  | { readonly type: 'metronome', readonly isOn: boolean }

/** Where the engine is, told while a pattern runs and once when it has ended. */
export interface EnginePlace {
  /** Which start it belongs to. */
  readonly run: number
  /** Time of the audio context at the beginning of a block, and the place in the pattern then: below 0 while it is counted in. */
  readonly contextSeconds: number
  readonly tick: number | null
  readonly ticksPerSecond: number
  /** How often the pattern has begun anew. */
  readonly pass: number
  /** Another pattern waits for the next bar. */
  readonly isChanging: boolean
}

const BLOCKS_BETWEEN_PLACES = 6

/** Runs the kit engine of `core/render` in the audio thread, fed with notes. */
class KitProcessor extends AudioWorkletProcessor {
  private readonly engine = new KitEngine(sampleRate)
  private readonly transport = new Transport(sampleRate)
  private readonly clicks = new Clicks(sampleRate)
  private kit: Kit | undefined
  private isMetronomeOn = false
  private blocks = 0
  private wasRunning = false
  private run = 0

  constructor() {
    super()
    this.port.onmessage = (event: MessageEvent<EngineMessage>) => this.take(event.data)
  }

  override process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0]!
    if (left && right) {
      const { frame } = this.engine
      this.tellPlace(frame)
      const { notes, clicks } = this.transport.due(frame, frame + left.length)
      if (notes.length > 0) this.engine.schedule(notes)
      this.engine.process([[left, right]])
      this.clicks.mixInto([left, right], frame, clicks.filter(click => this.isMetronomeOn || (this.transport.placeAt(click.frame) ?? 0) < 0))
    }
    return true
  }

  private tellPlace(frame: number): void {
    const { isRunning } = this.transport
    if (this.blocks++ % BLOCKS_BETWEEN_PLACES !== 0 && isRunning === this.wasRunning) return
    if (!isRunning && !this.wasRunning) return
    this.wasRunning = isRunning
    const place: EnginePlace = {
      run: this.run,
      contextSeconds: currentTime,
      tick: this.transport.placeAt(frame),
      ticksPerSecond: this.transport.ticksPerSecond,
      pass: this.transport.passAt(frame),
      isChanging: this.transport.isChanging,
    }
    this.port.postMessage(place)
  }

  private setKit(kit: Kit): void {
    this.kit = kit
    this.engine.setKit(kit)
  }

  private take(message: EngineMessage): void {
    const { engine, transport } = this
    switch (message.type) {
      case 'kit':
        return this.setKit(message.kit)
      case 'difference':
        return this.kit && this.setKit(applyDifference(this.kit, message.difference))
      case 'sound':
        return engine.setSound(message.id, { channels: message.channels, sourceRate: message.sourceRate })
      case 'forget':
        return engine.removeSound(message.id)
      case 'note':
        return engine.schedule([{ frame: engine.frame, note: message.note, velocity: message.velocity }])
      case 'stop':
        return engine.stopAll()
      case 'start':
        this.run = message.run
        return transport.start(message.pattern, message.start, engine.frame)
      case 'change':
        return transport.change(message.pattern, message.bpm, engine.frame)
      case 'change-at-bar':
        return transport.changeAtBar(message.pattern, message.bpm)
      case 'once':
        return transport.setOnce(message.isOnce)
      case 'end':
        return transport.stop()
      case 'metronome':
        this.isMetronomeOn = message.isOn
    }
  }
}

registerProcessor('emporion-kit', KitProcessor)
