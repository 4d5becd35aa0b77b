/** Bytes of a file that are read: of a table or a plan, and of a large table in a worker of its own. */
export const mostBytes = { plan: 5_000_000, table: 2_000_000, large: 20_000_000 }
/** Seconds that a worker may take over a file. */
export const mostSeconds = 30

/** Refuses a file that is larger than what is read. Throws an error for whoever chose it. */
export function refuseLarger(file: File, most: number): void {
  if (file.size > most)
    throw new Error(`${file.name} is larger than ${most / 1_000_000} MB, the most that is read here.`)
}

/** The text of a file of at most `most` bytes. Throws an error for whoever chose it. */
export async function textOf(file: File, most: number): Promise<string> {
  refuseLarger(file, most)
  return file.text()
}
