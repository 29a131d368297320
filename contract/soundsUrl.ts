/** Where the server has its sounds: each below it under its hash, several at once when they are asked of the address itself. */
export const SOUNDS_URL = '/api/audio'
