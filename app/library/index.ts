// What other areas may use of this one.
export { alternateCandidates, listedCandidates, searchCandidates, toCandidate, type Candidate, type CandidateList } from './candidates'
export { useCompare } from './compare'
export { FIRST_STEPS, useFirstSteps, type FirstStep } from './firstSteps'
export { useHeld } from './held'
export { useLibrary } from './library'
export { useSaved } from './saved'
