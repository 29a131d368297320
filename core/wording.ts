/** Made once: to make one takes longer than to use it a hundred times. */
const wholeNumber = new Intl.NumberFormat('en-GB')
const listOfAll = new Intl.ListFormat('en-GB', { type: 'conjunction' })

/** With a capital letter, as a sentence begins. */
export function capitalised(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1)
}

/** A whole number with its groups: 104,233. */
export function whole(value: number): string {
  return wholeNumber.format(value)
}

/** "1 sample", "23 samples". */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${whole(count)} ${count === 1 ? one : many}`
}

/** "A", "A and B", "A, B and C"; of more than `most` the rest is counted: "A, B and 3 more". */
export function listed(items: readonly string[], most = Infinity): string {
  return listOfAll.format(items.length > most ? [...items.slice(0, most), `${whole(items.length - most)} more`] : items)
}

/** A whole number with its sign, none for 0: "+1", "-2", "0". */
export function signed(value: number): string {
  return `${value > 0 ? '+' : ''}${whole(value)}`
}
