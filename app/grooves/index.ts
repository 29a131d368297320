// What other areas may use of this one.
export { useGrooves } from './grooves'
export { usePatterns } from './patterns'
export { useRecording } from './recording'
export { useTryOut } from './tryOut'
