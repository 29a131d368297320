import { applyDelta, type KitDelta } from '~~/core/kit/delta'
import type { Kit } from '~~/core/kit/document'
import type { Pattern } from '~~/core/groove/pattern'
import { PatternClock } from '~~/core/render/patternClock'
import { KitEngine } from '~~/core/render/engine'

/** What the page tells the engine in the audio thread. */
export type EngineMessage =
  | { readonly type: 'kit', readonly kit: Kit }
  /** What changed of the kit since it was sent last. */
  | { readonly type: 'delta', readonly delta: KitDelta }
  | { readonly type: 'sound', readonly id: string, readonly channels: Float32Array[], readonly sourceRate: number }
  | { readonly type: 'forget', readonly id: string }
  | { readonly type: 'note', readonly note: number, readonly velocity: number }
  | { readonly type: 'stop' }
  | { readonly type: 'pattern', readonly pattern: Pattern | undefined, readonly bpm: number }

/** Runs the kit engine of `core/render` in the audio thread, fed with notes. */
class KitProcessor extends AudioWorkletProcessor {
  private readonly engine = new KitEngine(sampleRate)
  private readonly clock = new PatternClock(sampleRate)
  private kit: Kit | undefined

  constructor() {
    super()
    this.port.onmessage = (event: MessageEvent<EngineMessage>) => this.take(event.data)
  }

  override process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0]!
    if (left && right) {
      const { frame } = this.engine
      const due = this.clock.due(frame, frame + left.length)
      if (due.length > 0) this.engine.schedule(due)
      this.engine.process([[left, right]])
    }
    return true
  }

  private setKit(kit: Kit): void {
    this.kit = kit
    this.engine.setKit(kit)
  }

  private take(message: EngineMessage): void {
    switch (message.type) {
      case 'kit':
        return this.setKit(message.kit)
      case 'delta':
        return this.kit && this.setKit(applyDelta(this.kit, message.delta))
      case 'sound':
        return this.engine.setSound(message.id, { channels: message.channels, sourceRate: message.sourceRate })
      case 'forget':
        return this.engine.removeSound(message.id)
      case 'note':
        return this.engine.schedule([{ frame: this.engine.frame, note: message.note, velocity: message.velocity }])
      case 'stop':
        return this.engine.stopAll()
      case 'pattern':
        return this.clock.set(message.pattern, message.bpm, this.engine.frame)
    }
  }
}

registerProcessor('emporion-kit', KitProcessor)
