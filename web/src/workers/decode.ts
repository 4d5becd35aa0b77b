import type { TableProblem } from '@climber/core'

const newline = 10

/**
 * A file's bytes as text. A file that is not UTF-8 is refused with the rows that cannot be read; UTF-16 and binary files
 * are named as what they are.
 */
export function decode(bytes: Uint8Array): { text: string; problems: TableProblem[] } {
  const refuse = (problems: TableProblem[]) => ({ text: '', problems })
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff))
    return refuse([{ row: 1, message: 'the file is UTF-16; save it as UTF-8' }])
  if (bytes.includes(0)) return refuse([{ row: 1, message: 'this is not a text file' }])
  const strict = () => new TextDecoder('utf-8', { fatal: true })
  try {
    return { text: strict().decode(bytes), problems: [] }
  } catch {
    const problems: TableProblem[] = []
    let from = 0
    for (let row = 1; from < bytes.length; row++) {
      const found = bytes.indexOf(newline, from)
      const to = found < 0 ? bytes.length : found
      try {
        strict().decode(bytes.subarray(from, to))
      } catch {
        problems.push({ row, message: 'letters here are not UTF-8; save the file as UTF-8' })
      }
      from = to + 1
    }
    // What else is wrong is told in the same pass: the rest of the text can be read.
    return { text: new TextDecoder('utf-8').decode(bytes), problems }
  }
}
