/** Upper ends of the lengths that sounds are counted by, in seconds; what is longer comes last. */
export const LENGTHS = [0.25, 0.5, 1, 2, 5] as const
