// What other areas may use of this one.
export { usePresetList } from './usePresetList'
export { useVault } from './vault'
