/** One message of a client, whole: its type letter ('' for the untyped ones that open a connection) and its bytes. */
export interface FrontendMessage {
  readonly type: string
  readonly bytes: Uint8Array
  /** The request code of an untyped message: the protocol version, or what else is asked. */
  readonly code: number
}

export const SSL_REQUEST = 80_877_103
export const GSS_REQUEST = 80_877_104
export const CANCEL_REQUEST = 80_877_102
const LARGEST_MESSAGE_BYTES = 1 << 30

/**
 * Cuts what a client sends into messages, however the bytes arrive.
 * Source: PostgreSQL 15 documentation, 55.7 "Message Formats".
 */
export class FrontendMessages {
  private pieces: Uint8Array[] = []
  private length = 0
  private opened = false

  /**
   * Takes bytes and gives the messages that they complete.
   *
   * @throws Error when a message states a length that cannot be
   */
  take(chunk: Uint8Array): FrontendMessage[] {
    this.pieces.push(chunk)
    this.length += chunk.length
    const found: FrontendMessage[] = []
    for (let message = this.next(); message; message = this.next()) found.push(message)
    return found
  }

  private next(): FrontendMessage | undefined {
    const typed = this.opened ? 1 : 0
    if (this.length < typed + 4) return undefined
    const head = this.peek(typed + 4)
    const stated = new DataView(head.buffer, head.byteOffset).getUint32(typed)
    if (stated < (typed ? 4 : 8) || stated > LARGEST_MESSAGE_BYTES) throw new Error(`A database message states a length of ${stated} bytes.`)
    if (this.length < typed + stated) return undefined
    const bytes = this.cut(typed + stated)
    if (typed) return { type: String.fromCharCode(bytes[0]!), bytes, code: 0 }
    const code = new DataView(bytes.buffer, bytes.byteOffset).getUint32(4)
    this.opened = code !== SSL_REQUEST && code !== GSS_REQUEST
    return { type: '', bytes, code }
  }

  private peek(count: number): Uint8Array {
    const first = this.pieces[0]!
    if (first.length >= count) return first
    return this.joined()
  }

  private cut(count: number): Uint8Array {
    const all = this.pieces[0]!.length >= count ? this.pieces[0]! : this.joined()
    if (all.length === count) this.pieces.shift()
    else this.pieces[0] = all.subarray(count)
    this.length -= count
    return all.slice(0, count)
  }

  private joined(): Uint8Array {
    const whole = Buffer.concat(this.pieces)
    this.pieces = [whole]
    return whole
  }
}
