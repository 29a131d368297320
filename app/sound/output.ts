/** The one way out: everything that sounds goes through the master gain and the meter. */
export interface Output {
  readonly context: AudioContext
  readonly input: GainNode
  readonly meter: AnalyserNode
}

/** What Chromium's audio contexts can do beyond the standard library's types. */
type WithSink = AudioContext & { readonly setSinkId?: (id: string) => Promise<void>, readonly sinkId?: string }

/** What the meter looks back on, two thirds of a second: no short sound is missed where the page is held up. */
export const METER_FRAMES = 32_768

/** How long a device may take to open once the page may use it: a busy computer takes its time. */
const OPENING_MS = 5_000
/** A browser that plays without a gesture has begun to by then. */
const UNASKED_MS = 200

let output: Output | undefined
let gain = 1

/** Opens the audio device on first use. The context may still wait for a gesture: see `wake`. */
export function useOutput(): Output {
  if (output) return output
  const context = new AudioContext({ latencyHint: 'interactive' })
  const input = context.createGain()
  input.gain.value = gain
  const meter = context.createAnalyser()
  meter.fftSize = METER_FRAMES
  input.connect(meter)
  meter.connect(context.destination)
  output = { context, input, meter }
  return output
}

/** How loud all is, from 0 to 1. Opens no device. */
export function setVolume(volume: number): void {
  gain = volume ** 2
  if (output) output.input.gain.value = gain
}

/** Lets the audio run; browsers allow that only after a gesture. False while it is not allowed. */
export async function wake(): Promise<boolean> {
  const { context } = useOutput()
  if (context.state === 'running') return true
  const patience = navigator.userActivation.hasBeenActive ? OPENING_MS : UNASKED_MS
  await Promise.race([context.resume().catch(() => undefined), new Promise(resolve => setTimeout(resolve, patience))])
  return isRunning(context)
}

function isRunning({ state }: AudioContext): boolean {
  return state === 'running'
}

/** True where the browser lets the device be chosen. */
export function canChooseDevice(): boolean {
  return 'setSinkId' in AudioContext.prototype && 'mediaDevices' in navigator
}

/** The devices that can play, with the names that the browser tells of them. */
export async function outputDevices(): Promise<{ id: string, name: string }[]> {
  if (!canChooseDevice()) return []
  const devices = await navigator.mediaDevices.enumerateDevices().catch(() => [])
  return devices.filter(device => device.kind === 'audiooutput' && device.deviceId !== '' && device.deviceId !== 'default')
    .map((device, i) => ({ id: device.deviceId, name: device.label || `Output ${i + 1}` }))
}

/** Plays through a device; an empty id is the usual one. @throws when it is not there */
export async function chooseDevice(id: string): Promise<void> {
  const context: WithSink = useOutput().context
  if (context.setSinkId && context.sinkId !== id) await context.setSinkId(id)
}
