/** Hands the browser a file to keep. */
export function download(name: string, type: string, text: string): void {
  const address = URL.createObjectURL(new Blob([text], { type }))
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(address), 1000)
}

/** A file name from a title. */
export const fileName = (title: string): string =>
  title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')

/** The file that was chosen. The field is emptied, so that the same file, mended, can be chosen again. */
export function chosenFile(event: Event): File | undefined {
  const input = event.target as HTMLInputElement
  const [file] = input.files ?? []
  input.value = ''
  return file
}
