import { CLASSES } from './classes'
import model from './model.json'
import type { Network } from './network'
import { FEATURES, FEATURES_VERSION } from '../analysis/features'

/** A network as it is stored. */
export type StoredNetwork = { readonly [K in keyof Network]: readonly number[] }

export interface StoredModel {
  readonly featuresVersion: number
  readonly classes: readonly string[]
  readonly networks: readonly StoredNetwork[]
}

let loaded: readonly Network[] | undefined

/**
 * The networks that tell kinds by ear, trained by `npm run train` (see `train/`).
 *
 * @throws RangeError when they were trained for other features or classes than there are now
 */
export function trainedNetworks(): readonly Network[] {
  return loaded ??= readModel(model)
}

/** Reads stored networks. @throws RangeError as `trainedNetworks` does */
export function readModel(stored: StoredModel): readonly Network[] {
  const fits = stored.featuresVersion === FEATURES_VERSION && stored.classes.join() === CLASSES.join()
  const networks = stored.networks.map(network => ({
    means: Float32Array.from(network.means), scales: Float32Array.from(network.scales),
    hiddenWeights: Float32Array.from(network.hiddenWeights), hiddenBiases: Float32Array.from(network.hiddenBiases),
    outputWeights: Float32Array.from(network.outputWeights), outputBiases: Float32Array.from(network.outputBiases),
  }))
  if (!fits || networks.some(network => network.means.length !== FEATURES)) throw new RangeError('The networks were trained for other features: run "npm run train".')
  return networks
}
