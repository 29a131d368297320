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
  const outputs = new Float64Array(biases.length)
  for (let unit = 0; unit < outputs.length; unit++) {
    let sum = biases[unit]!
    const row = unit * inputs.length
    for (let i = 0; i < inputs.length; i++) sum += inputs[i]! * weights[row + i]!
    outputs[unit] = sum
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
