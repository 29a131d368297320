import { endingOf } from '~~/core/audio/extensions'
import type { SoundRow } from '~~/contract/library'
import { soundUrl } from './decoder'

/** The address of a sound's file under its own name. */
export function soundFileUrl(hash: string): string {
  return `${soundUrl(hash)}?as=file`
}

/**
 * Lets what is dragged be let go of on the desktop or in another program as a file. Browsers that know of it fetch the file then;
 * for others each such thing has an entry in its menu that saves it.
 */
export function offerFile(event: DragEvent, url: string, name: string, type: string): void {
  if (!event.dataTransfer) return
  event.dataTransfer.setData('DownloadURL', `${type}:${name.replace(/[:/\\]/g, '-')}:${new URL(url, location.origin).href}`)
}

/** Offers the file of a sound. */
export function offerSound(event: DragEvent, { hash, name, container }: Pick<SoundRow, 'hash' | 'name' | 'container'>): void {
  offerFile(event, soundFileUrl(hash), `${name}.${endingOf(container)}`, 'application/octet-stream')
}
