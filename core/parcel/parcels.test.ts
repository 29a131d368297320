import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LONGEST_PARCEL_BYTES, parcelHead, readParcels } from './parcels'

/** The stream of some files, cut at some places. */
async function* cut(files: readonly (Uint8Array | null)[], places: readonly number[]): AsyncGenerator<Uint8Array> {
  const whole = Buffer.concat(files.flatMap(file => [parcelHead(file?.length ?? null), ...file ? [file] : []]))
  const ends = [...new Set(places.map(place => Math.floor(place * whole.length)))].sort((a, b) => a - b)
  let from = 0
  for (const to of [...ends, whole.length]) {
    yield new Uint8Array(whole.subarray(from, to))
    from = to
  }
}

async function allOf(chunks: AsyncIterable<Uint8Array>): Promise<(number[] | null)[]> {
  const files: (number[] | null)[] = []
  for await (const file of readParcels(chunks)) files.push(file && [...file])
  return files
}

const file = fc.option(fc.uint8Array({ maxLength: 40 }), { freq: 4 })
const places = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { maxLength: 12 })

describe('files in one stream', () => {
  it('come out as they went in, however it is cut', async () => {
    await fc.assert(fc.asyncProperty(fc.array(file, { maxLength: 9 }), places, async (files, at) => {
      expect(await allOf(cut(files, at))).toEqual(files.map(one => one && [...one]))
    }))
  })

  it('are given as soon as they are there', async () => {
    const given: number[] = []
    async function* slowly(): AsyncGenerator<Uint8Array> {
      yield Uint8Array.of(2, 0, 0, 0, 7)
      given.push(-1)
      yield Uint8Array.of(8, 1, 0, 0, 0, 9)
      given.push(-2)
    }
    for await (const one of readParcels(slowly())) given.push(one!.length)
    expect(given).toEqual([-1, 2, 1, -2])
  })

  it('that end too early are reported, and what was whole before is given', async () => {
    await fc.assert(fc.asyncProperty(fc.array(fc.uint8Array({ minLength: 1, maxLength: 20 }), { minLength: 1, maxLength: 5 }), fc.nat(), async (files, missing) => {
      const whole = Buffer.concat(files.flatMap(one => [parcelHead(one.length), one]))
      const last = files.at(-1)!.length + 4
      const kept = whole.subarray(0, whole.length - 1 - missing % (last - 1))
      const got: number[][] = []
      const reading = (async () => {
        for await (const one of readParcels(cutOnce(kept))) got.push([...one!])
      })()
      await expect(reading).rejects.toMatchObject({ code: 'broken' })
      expect(got).toEqual(files.slice(0, -1).map(one => [...one]))
    }))
  })

  it('are no longer than can be said', () => {
    expect([...parcelHead(LONGEST_PARCEL_BYTES)]).toEqual([0xFE, 0xFF, 0xFF, 0xFF])
    expect([...parcelHead(null)]).toEqual([0xFF, 0xFF, 0xFF, 0xFF])
    for (const bytes of [-1, 0.5, LONGEST_PARCEL_BYTES + 1]) expect(() => parcelHead(bytes)).toThrow(RangeError)
  })
})

async function* cutOnce(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield new Uint8Array(bytes)
}
