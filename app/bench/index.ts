// What other areas may use of this one.
export { useKit } from './kit'
export { usePlacing } from './placing'
export { useMidiInput } from './useMidiInput'
export { PAD_CODES, usePadKeys } from './usePadKeys'
