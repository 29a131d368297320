import { CLASSES } from './classes'

/** One trained network: standardised features, one hidden layer of rectified units, one output a class. */
export interface Network {
  readonly means: Float32Array
  /** What each feature is multiplied by after its mean is taken away. */
  readonly scales: Float32Array
  /** `hidden` rows of one weight a feature, and a bias each. */
  readonly hiddenWeights: Float32Array
  readonly hiddenBiases: Float32Array
  /** A row of one weight a hidden unit for each class, and a bias each. */
  readonly outputWeights: Float32Array
  readonly outputBiases: Float32Array
}

/**
 * Probability of each class by the mean of several networks.
 * Source: a multilayer perceptron with softmax outputs (Bishop, "Pattern Recognition and Machine Learning", 5.1);
 * averaging several evens out what chance put into each (Hansen and Salamon, 1990).
 *
 * @param features as `featuresOf` gives them
 */
export function classProbabilities(features: Uint8Array, networks: readonly Network[]): Float64Array {
  const mean = new Float64Array(CLASSES.length)
  for (const network of networks) {
    const outputs = outputsOf(network, features)
    for (let i = 0; i < mean.length; i++) mean[i]! += outputs[i]! / networks.length
  }
  return mean
}

function outputsOf(network: Network, features: Uint8Array): Float64Array {
  const { means, scales, hiddenWeights, hiddenBiases, outputWeights, outputBiases } = network
  const inputs = new Float64Array(features.length)
  for (let i = 0; i < inputs.length; i++) inputs[i] = (features[i]! / 255 - means[i]!) * scales[i]!
  const hidden = layer(inputs, hiddenWeights, hiddenBiases)
  for (let i = 0; i < hidden.length; i++) hidden[i] = Math.max(0, hidden[i]!)
  return softmax(layer(hidden, outputWeights, outputBiases))
}

function layer(inputs: Float64Array, weights: Float32Array, biases: Float32Array): Float64Array {
  const outputs = Float64Array.from(biases)
  const width = inputs.length
  // Four units at a time, since a processor adds to one sum no faster than it finishes the last addition.
  const fours = outputs.length & ~3
  for (let unit = 0; unit < fours; unit += 4) {
    let [a, b, c, d] = [0, 0, 0, 0]
    for (let i = 0, at = unit * width; i < width; i++, at++) {
      const input = inputs[i]!
      a += input * weights[at]!
      b += input * weights[at + width]!
      c += input * weights[at + 2 * width]!
      d += input * weights[at + 3 * width]!
    }
    outputs[unit]! += a
    outputs[unit + 1]! += b
    outputs[unit + 2]! += c
    outputs[unit + 3]! += d
  }
  for (let unit = fours; unit < outputs.length; unit++) {
    for (let i = 0; i < width; i++) outputs[unit]! += inputs[i]! * weights[unit * width + i]!
  }
  return outputs
}

/** Exponentials over their sum. */
export function softmax(values: Float64Array): Float64Array {
  const highest = Math.max(...values)
  const powers = values.map(value => Math.exp(value - highest))
  const sum = powers.reduce((all, value) => all + value, 0)
  return powers.map(value => value / sum)
}
