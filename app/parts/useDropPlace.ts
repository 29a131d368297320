/** A part of the page that takes what is dropped on it from outside: a pad, the free space of the kit sheet, or the tray. */
export type DropPlace =
  | { readonly type: 'pad', readonly padIndex: number }
  | { readonly type: 'kit' }
  | { readonly type: 'tray' }

/** The attribute by which such a part is known: `data-takes="pad 12"`. Give it to the outermost element of the part. */
export function takes(place: DropPlace): { 'data-takes': string } {
  return { 'data-takes': place.type === 'pad' ? `pad ${place.padIndex}` : place.type }
}

/** The part below the pointer, and its element; undefined where the view as a whole takes it. */
export function dropPlaceAt(target: EventTarget | null): { readonly place: DropPlace, readonly element: Element } | undefined {
  const element = target instanceof Element ? target.closest('[data-takes]') : null
  const [type, number] = element?.getAttribute('data-takes')?.split(' ') ?? []
  if (!element) return undefined
  if (type === 'pad') return { place: { type, padIndex: Number(number) }, element }
  return { place: { type: type === 'kit' ? 'kit' : 'tray' }, element }
}
