/** The one way out: everything that sounds goes through the master gain and the meter. */
export interface Output {
  readonly context: AudioContext
  readonly input: GainNode
  readonly meter: AnalyserNode
}

let output: Output | undefined

/** Opens the audio device on first use. The context may still wait for a gesture: see `wake`. */
export function useOutput(): Output {
  if (output) return output
  const context = new AudioContext({ latencyHint: 'interactive' })
  const input = context.createGain()
  const meter = context.createAnalyser()
  meter.fftSize = 2048
  input.connect(meter)
  meter.connect(context.destination)
  output = { context, input, meter }
  return output
}

/** Lets the audio run; browsers allow that only after a gesture. False while it is not allowed. */
export async function wake(): Promise<boolean> {
  const { context } = useOutput()
  if (context.state === 'suspended') await Promise.race([context.resume(), new Promise(resolve => setTimeout(resolve, 200))])
  return context.state === 'running'
}
