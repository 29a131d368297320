/** What a pad can be switched to, with its words for switching it on and off. */
export const PAD_STATES = [
  { key: 'muted', letter: 'M', on: 'Mute', off: 'Unmute' },
  { key: 'soloed', letter: 'S', on: 'Solo', off: 'End the solo of' },
  { key: 'held', letter: 'H', on: 'Hold', off: 'Release' },
] as const

export type PadState = typeof PAD_STATES[number]

/** The state of that name. */
export function padState(key: PadState['key']): PadState {
  return PAD_STATES.find(state => state.key === key)!
}
