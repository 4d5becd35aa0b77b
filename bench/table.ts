export const median = (values: number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!

/** Prints a table in columns. */
export function table(title: string, head: string[], rows: (string | number)[][]): void {
  const text = [head, ...rows.map((row) => row.map(String))]
  const widths = head.map((_, column) => Math.max(...text.map((row) => row[column]!.length)))
  console.log(`\n${title}`)
  for (const row of text) console.log(row.map((cell, column) => cell.padStart(widths[column]!)).join('  '))
}
