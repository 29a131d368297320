import { CLASSES } from './classes'
import { DenseLayer } from './denseLayer'

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
    const outputs = softmax(outputsOf(network, features))
    for (let i = 0; i < mean.length; i++) mean[i]! += outputs[i]! / networks.length
  }
  return mean
}

const laid = new WeakMap<Network, { readonly hidden: DenseLayer, readonly output: DenseLayer }>()

function layersOf(network: Network) {
  const known = laid.get(network)
  if (known) return known
  const made = { hidden: new DenseLayer(network.hiddenWeights, network.hiddenBiases, 0), output: new DenseLayer(network.outputWeights, network.outputBiases) }
  laid.set(network, made)
  return made
}

function outputsOf(network: Network, features: Uint8Array): Float32Array {
  const { means, scales } = network
  const { hidden, output } = layersOf(network)
  for (let i = 0; i < features.length; i++) hidden.inputs[i] = (features[i]! / 255 - means[i]!) * scales[i]!
  hidden.run()
  output.inputs.set(hidden.outputs)
  output.run()
  return output.outputs
}

/** Exponentials over their sum. */
export function softmax(values: Float32Array | Float64Array): Float64Array {
  let highest = Number.NEGATIVE_INFINITY
  for (const value of values) highest = Math.max(highest, value)
  const powers = new Float64Array(values.length)
  let sum = 0
  for (let i = 0; i < values.length; i++) sum += powers[i] = Math.exp(values[i]! - highest)
  for (let i = 0; i < values.length; i++) powers[i]! /= sum
  return powers
}
