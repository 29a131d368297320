// What other areas may use of this one.
export { useTargets } from './targets'
