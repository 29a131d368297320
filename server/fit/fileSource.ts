import { EmporionError } from '../../core/errors'
import { endsTooSoon, type ByteSource } from '../../core/formats/riff'
import { usingUserFile } from '../base/opener'

/** A file that is read piece by piece, and closed when the work with it is done. */
export function withFile<T>(path: string, roots: readonly string[], work: (source: ByteSource) => Promise<T>): Promise<T> {
  return usingUserFile(path, roots, ({ handle, size }) => work({
    size,
    async read(offset, length) {
      if (offset < 0 || length < 0 || offset + length > size) throw endsTooSoon(size, offset + length)
      const bytes = new Uint8Array(length)
      let done = 0
      while (done < length) {
        const { bytesRead } = await handle.read(bytes, done, length - done, offset + done)
        if (bytesRead === 0) throw new EmporionError('unreadable', 'The file became shorter while it was read.')
        done += bytesRead
      }
      return bytes
    },
  }))
}
