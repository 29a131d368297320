/** What the audio alone can be told to be. `other` is no drum: a tone, a voice, an effect. */
export const CLASSES = ['kick', 'snare', 'rim', 'clap', 'tom', 'hat.closed', 'hat.open', 'cymbal', 'hand', 'shaker', 'metal', 'wood', 'other'] as const

export type SoundClass = typeof CLASSES[number]
