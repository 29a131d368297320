/**
 * The views, in the order of their keys. Each is a folder of this name with a component `<Name>View.vue`; rail, keys, the list of keys,
 * commands, routes and pictures follow from this list alone.
 */
export const VIEWS = [
  { id: 'library', name: 'Library', keysTitle: 'In the Library' },
  { id: 'bench', name: 'Bench', keysTitle: 'On the Bench' },
  { id: 'grooves', name: 'Grooves', keysTitle: 'In Grooves' },
  { id: 'fit', name: 'Fit', keysTitle: 'In Fit' },
  { id: 'vault', name: 'Vault', keysTitle: 'In the Vault' },
] as const

export type ViewId = typeof VIEWS[number]['id']
