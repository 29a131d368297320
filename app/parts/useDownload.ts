/** Hands bytes to the browser as a file to be kept. */
export function downloadBytes(bytes: Uint8Array, name: string, type: string): void {
  const url = URL.createObjectURL(new Blob([bytes.slice()], { type }))
  downloadUrl(url, name)
  setTimeout(() => URL.revokeObjectURL(url), 60_000)
}

/** Lets the browser fetch a file and keep it. */
export function downloadUrl(url: string, name = ''): void {
  const link = document.createElement('a')
  link.href = url
  link.download = name
  link.click()
}
