import { useOutput } from './output'

/**
 * The time of the audio context that is heard at a moment of the page's clock: what a person plays along to. It lies behind what
 * the engine renders by as much as the output takes.
 *
 * @param performanceMs as in `event.timeStamp`
 * @returns seconds
 */
export function heardSeconds(performanceMs: number): number {
  const { context } = useOutput()
  const stamp = context.getOutputTimestamp()
  if (stamp.contextTime !== undefined && stamp.performanceTime !== undefined && stamp.contextTime > 0) return stamp.contextTime + (performanceMs - stamp.performanceTime) / 1000
  const behind = context.outputLatency || context.baseLatency || 0
  return context.currentTime - behind + (performanceMs - performance.now()) / 1000
}

/** How far what is heard lies behind what is rendered now, in milliseconds. */
export function outputDelayMs(): number {
  return Math.max(0, (useOutput().context.currentTime - heardSeconds(performance.now())) * 1000)
}
