import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { interpolate, sincKernel } from '../audio/sinc'
import { pitchKernel } from './pitchKernels'
import { MOST_FRAMES, Workspace } from './workspace'

const channels = fc.float32Array({ min: -1, max: 1, noNaN: true, minLength: 1, maxLength: 600 })

describe('the workspace of voices', () => {
  const workspace = new Workspace()

  it('reads what plain interpolation gives, of one channel and of two, forwards and backwards, within and beyond the sound', () => {
    fc.assert(fc.property(channels, fc.boolean(), fc.double({ min: -700, max: 1300, noNaN: true }), fc.double({ min: -9, max: 9, noNaN: true }), fc.integer({ min: 1, max: 300 }), (channel, isWide, position, step, count) => {
      const kernel = pitchKernel(Math.abs(step))
      const sound = isWide ? [channel, channel.map(value => 0.5 - value)] : [channel]
      workspace.read(sound, count, position, step, kernel)
      sound.forEach((source, c) => {
        const out = workspace.channelsToWorkIn(sound.length)[c]!
        for (let i = 0; i < count; i++) expect(Math.abs(out[i]! - interpolate(source, position + i * step, kernel))).toBeLessThan(2e-5)
      })
    }), { numRuns: 150 })
  })

  it('goes on whole where more of the sound is needed than its memory holds', () => {
    const channel = Float32Array.from({ length: 200_000 }, (_, i) => Math.sin(i / 900))
    const kernel = sincKernel(16, 0.95, 9, 256)
    workspace.read([channel, channel], MOST_FRAMES, 100, 20.5, kernel)
    for (const out of workspace.channelsToWorkIn(2)) {
      for (const i of [0, 1500, 1600, 3200, MOST_FRAMES - 1]) expect(out[i]).toBeCloseTo(interpolate(channel, 100 + i * 20.5, kernel), 4)
    }
  })

  it('adds up what is mixed into each bus, and leaves silence where nothing was', () => {
    const amounts = fc.double({ min: -2, max: 2, noNaN: true })
    const mixing = fc.record({ bus: fc.nat(8), isWide: fc.boolean(), from: fc.nat(150), count: fc.nat(150), left: amounts, right: amounts, samples: fc.float32Array({ min: -1, max: 1, noNaN: true, minLength: 300, maxLength: 300 }) })
    fc.assert(fc.property(fc.array(mixing, { maxLength: 6 }), fc.integer({ min: 300, max: 1000 }), (mixings, frames) => {
      const buses = Array.from({ length: 9 }, () => [new Float64Array(frames), new Float64Array(frames)] as const)
      const outputs = buses.map(() => [new Float32Array(frames + 7).fill(9), new Float32Array(frames + 7).fill(9)] as const)
      workspace.openBuses(buses.length, frames)
      for (const { bus, isWide, from, count, left, right, samples } of mixings) {
        const channels = isWide ? [samples.subarray(0, 150), samples.subarray(150)] : [samples.subarray(0, 150)]
        workspace.copy(channels, 0, count)
        workspace.add(bus, from, count, channels.length, left, right)
        for (let i = 0; i < count; i++) {
          buses[bus]![0][from + i]! += channels[0]![i]! * left
          buses[bus]![1][from + i]! += channels.at(-1)![i]! * right
        }
      }
      outputs.forEach((output, bus) => {
        workspace.takeBus(bus, output, 7)
        for (const side of [0, 1] as const) {
          expect([...output[side].subarray(0, 7)]).toEqual(Array(7).fill(9))
          const furthest = buses[bus]![side].reduce((most, value, i) => Math.max(most, Math.abs(output[side][7 + i]! - value)), 0)
          expect(furthest).toBeLessThan(3e-6)
        }
      })
    }), { numRuns: 60 })
  })

  it('keeps tables and what lies in it when it grows for more buses', () => {
    const grown = new Workspace()
    const channel = Float32Array.from({ length: 400 }, (_, i) => Math.sin(i / 9))
    const kernel = pitchKernel(1.3)
    grown.prepare(kernel)
    grown.copy([channel], 0, 400)
    grown.openBuses(128, 400)
    grown.add(127, 0, 400, 1, 1, 1)
    const output = [new Float32Array(400), new Float32Array(400)] as const
    grown.takeBus(127, output, 0)
    expect(output[0]).toEqual(channel)
    expect(output[1]).toEqual(channel)
    grown.read([channel], 200, 10, 1.3, kernel)
    for (const i of [0, 77, 199]) expect(grown.channelsToWorkIn(1)[0]![i]).toBeCloseTo(interpolate(channel, 10 + i * 1.3, kernel), 4)
  })
})
