import fc from 'fast-check'
import { expect, it } from 'vitest'
import { keepable } from './text'

it('keeps what is text, and nothing that is none', () => {
  expect(keepable('Fähre 🥁 kick')).toBe('Fähre 🥁 kick')
  expect(keepable('two\0values')).toBe('two values')
  expect(keepable('\uD83E broken \uDD41')).toBe(' broken ')
})

it('never cuts a character in two', () => {
  expect(keepable('kick 🥁', 6)).toBe('kick ')
  expect(keepable('kick 🥁', 7)).toBe('kick 🥁')
})

it('comes out the same from UTF-8 and from JSON, whatever went in', () => {
  fc.assert(fc.property(fc.string({ unit: 'binary' }), fc.array(fc.integer({ min: 0, max: 0xFFFF })), fc.integer({ min: 0, max: 12 }), (text, units, most) => {
    const kept = keepable(text + String.fromCharCode(...units), most)
    expect(new TextDecoder().decode(new TextEncoder().encode(kept))).toBe(kept)
    expect(JSON.stringify(kept)).not.toMatch(/\\u(0000|d[89a-f])/)
    expect(kept.length).toBeLessThanOrEqual(most)
  }))
})
