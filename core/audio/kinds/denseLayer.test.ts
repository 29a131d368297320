import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DenseLayer } from './denseLayer'

const values = (length: number) => fc.array(fc.float({ min: -2, max: 2, noNaN: true }), { minLength: length, maxLength: length }).map(list => Float32Array.from(list))

describe('a layer of a network', () => {
  it('gives the sums that plain code gives, for any width and number of units, run after run', () => {
    const layers = fc.tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 20 }), fc.boolean())
      .chain(([width, units, isRectified]) => fc.record({ width: fc.constant(width), isRectified: fc.constant(isRectified), weights: values(width * units), biases: values(units), inputs: fc.array(values(width), { minLength: 1, maxLength: 3 }) }))
    fc.assert(fc.property(layers, ({ width, isRectified, weights, biases, inputs }) => {
      const layer = new DenseLayer(weights, biases, ...isRectified ? [0] : [])
      for (const input of inputs) {
        layer.inputs.set(input)
        layer.run()
        biases.forEach((bias, unit) => {
          const sum = input.reduce((all, value, i) => all + value * weights[unit * width + i]!, bias)
          expect(layer.outputs[unit]).toBeCloseTo(isRectified ? Math.max(0, sum) : sum, 4)
        })
      }
    }))
  })
})
