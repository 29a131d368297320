import { CLASSES } from './classes'
import model from './model.json'
import type { Network } from './network'
import { FEATURES, FEATURES_VERSION } from '../analysis/features'

/** A network as it is stored: its numbers as base64 of 32-bit little-endian floats. */
export type StoredNetwork = { readonly [K in keyof Network]: string }

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
    means: floats(network.means), scales: floats(network.scales),
    hiddenWeights: floats(network.hiddenWeights), hiddenBiases: floats(network.hiddenBiases),
    outputWeights: floats(network.outputWeights), outputBiases: floats(network.outputBiases),
  }))
  if (!fits || networks.some(network => network.means.length !== FEATURES)) throw new RangeError('The networks were trained for other features: run "npm run train".')
  return networks
}

function floats(base64: string): Float32Array {
  const text = atob(base64)
  const bytes = Uint8Array.from(text, character => character.charCodeAt(0))
  return new Float32Array(bytes.buffer)
}
