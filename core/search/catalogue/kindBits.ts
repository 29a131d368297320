import { Bits } from './bits'
import type { Catalogue } from './catalogue'
import { KIND_NUMBERS, NO_KIND } from './columns'

/** The sounds of a kind and its subkinds; `none` for those of no known kind. */
export function kindBits({ columns, size }: Catalogue, path: string): Bits {
  const wanted = new Uint8Array(256)
  if (path === 'none') wanted[NO_KIND] = 1
  else for (const [kind, number] of KIND_NUMBERS) if (kind === path || kind.startsWith(`${path}.`)) wanted[number] = 1
  return Bits.where(size, slot => wanted[columns.kinds[slot]!] === 1)
}
