import { useOutput, wake } from './output'

/** The ways to hear one thing: as it is, as it would become, and what lies between. */
export const SIDES = ['before', 'after', 'difference'] as const
export type HearSide = typeof SIDES[number]

/** Audio of each way, all of one length and rate. */
export type Sides = Readonly<Partial<Record<HearSide, readonly Float32Array<ArrayBuffer>[]>>>

const FADE_SECONDS = 0.004

interface Running {
  readonly sources: readonly AudioBufferSourceNode[]
  readonly gains: ReadonlyMap<HearSide, GainNode>
  readonly startedAt: number
  readonly seconds: number
  readonly isLooped: boolean
}

let running: Running | undefined

/** Plays all ways at once, one of them heard, so that they can be switched in place. */
export async function playSides(sides: Sides, rate: number, heard: HearSide, isLooped: boolean, onEnd: () => void): Promise<void> {
  stopSides()
  await wake()
  const { context, input } = useOutput()
  const gains = new Map<HearSide, GainNode>()
  const sources: AudioBufferSourceNode[] = []
  let seconds = 0
  for (const side of SIDES) {
    const channels = sides[side]
    if (!channels || channels[0]!.length === 0) continue
    const buffer = context.createBuffer(channels.length, channels[0]!.length, rate)
    channels.forEach((channel, i) => buffer.copyToChannel(channel, i))
    const source = context.createBufferSource()
    const gain = context.createGain()
    source.buffer = buffer
    source.loop = isLooped
    gain.gain.value = side === heard ? 1 : 0
    source.connect(gain).connect(input)
    gains.set(side, gain)
    sources.push(source)
    seconds = buffer.duration
  }
  const begun: Running = { sources, gains, startedAt: context.currentTime, seconds, isLooped }
  for (const source of sources) source.start(begun.startedAt)
  sources[0]?.addEventListener('ended', () => {
    for (const gain of gains.values()) gain.disconnect()
    if (running !== begun) return
    running = undefined
    onEnd()
  })
  running = begun
}

/** Lets another way be heard from the same place on. */
export function hearSide(side: HearSide): void {
  if (!running) return
  const { context } = useOutput()
  for (const [name, { gain }] of running.gains) {
    gain.cancelScheduledValues(context.currentTime)
    gain.setTargetAtTime(name === side ? 1 : 0, context.currentTime, FADE_SECONDS)
  }
}

export function stopSides(): void {
  const ending = running
  if (!ending) return
  running = undefined
  const { context } = useOutput()
  for (const { gain } of ending.gains.values()) {
    gain.cancelScheduledValues(context.currentTime)
    gain.setTargetAtTime(0, context.currentTime, FADE_SECONDS)
  }
  for (const source of ending.sources) source.stop(context.currentTime + FADE_SECONDS * 5)
}

/** How much has been played, 0 to 1; null while nothing plays. */
export function sidesPosition(): number | null {
  if (!running || running.seconds === 0) return null
  const along = (useOutput().context.currentTime - running.startedAt) / running.seconds
  return running.isLooped ? along % 1 : Math.min(1, along)
}
