/**
 * Cuts a file or folder name into lower-case words the way people write them: at anything that is not a letter
 * or digit, where lower case turns to upper (`OpenHat`), before the last capital of a run (`HHOpen`), and between
 * letters and digits (`Kick07`). Accents are folded, so that `Fähre` is found by `fahre` and `fähre` alike.
 */
export function nameTokens(name: string): string[] {
  return fold(name.normalize('NFC')
    .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{Lu})(\p{Lu}\p{Ll})/gu, '$1 $2')
    .replace(/(\p{L})(\d)/gu, '$1 $2')
    .replace(/(\d)(\p{L})/gu, '$1 $2'))
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean)
}

/** Lower case without accents: what names and queries are compared in. */
export function fold(text: string): string {
  return text.normalize('NFKD').replace(/\p{M}/gu, '').replace(/ß/g, 'ss').toLowerCase()
}

/**
 * What a name is searched by: its words as written and, behind a `|`, those found by cutting it where they are others. Each
 * keeps its order, so that words in a row are found as such.
 */
export function searchText(name: string): string {
  const asWritten = fold(name.normalize('NFC')).split(/[^\p{L}\p{N}]+/u).filter(Boolean).join(' ')
  const cut = nameTokens(name).join(' ')
  return asWritten === cut ? cut : `${asWritten} | ${cut}`
}
