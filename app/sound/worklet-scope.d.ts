/** What the Web Audio API adds inside an AudioWorklet; TypeScript's DOM library leaves it out. Source: W3C Web Audio API 1.1, 1.32.3. */
declare abstract class AudioWorkletProcessor {
  readonly port: MessagePort
  abstract process(inputs: Float32Array[][], outputs: Float32Array[][], parameters: Record<string, Float32Array>): boolean
}

declare const sampleRate: number
/** Time of the context at the beginning of the block that is processed, in seconds. */
declare const currentTime: number

declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void
