import { startsWith } from './bytes'

export { readFlac } from './flac/read'
export { isMpeg, readMpeg } from './mpeg/read'
export { readOgg } from './ogg/read'
export { isWavpack, readWavpack } from './wavpack/read'

/** True when the bytes begin with a FLAC stream. */
export function isFlac(bytes: Uint8Array): boolean {
  return startsWith(bytes, 'fLaC')
}

/** True when the bytes begin with an Ogg page. */
export function isOgg(bytes: Uint8Array): boolean {
  return startsWith(bytes, 'OggS')
}
