/** What a person can do something about: shown as it is, without a trace of the code. */
export class Problem extends Error {}
