import type { Cause } from '@climber/contract'
import { causesFor, causeTitle } from './causes'

export interface QuickCauses {
  causes: { item: number; cause: Cause }[]
  problems: { line: number; message: string }[]
}

/**
 * Causes by item number as one writes them down: an item and its cause by number or by its first letters, a line or a comma between
 * two of them: `12 1, 7 misread`; or a cause and all its items: `1: 12 7 31`.
 * `known` says which items there are; a cause is one of those of the candidate's way to work.
 */
export function readQuickCauses(
  text: string,
  way: Parameters<typeof causesFor>[0],
  known: (item: number) => boolean,
): QuickCauses {
  const all = causesFor(way, { outcome: 'wrong' })
  const byName = (word: string): Cause | undefined => {
    if (/^\d$/.test(word)) return all[Number(word) - 1]
    const found = all.filter((cause) =>
      [cause, causeTitle(cause, way)].some((name) => name.toLowerCase().startsWith(word.toLowerCase())),
    )
    return found.length === 1 ? found[0] : undefined
  }
  const listed = all.map((cause, at) => `${at + 1} ${causeTitle(cause, way).toLowerCase()}`).join(', ')
  const causes = new Map<number, Cause>()
  const problems: QuickCauses['problems'] = []
  text.split('\n').forEach((row, at) => {
    const line = at + 1
    const fail = (message: string) => void problems.push({ line, message })
    const take = (item: number, cause: Cause) =>
      known(item) ? void causes.set(item, cause) : fail(`there is no item ${item}`)
    for (const part of row.split(/[,;]/)) {
      const entry = part.trim()
      if (!entry) continue
      const many = /^([^:]+):\s*([\d\s]+)$/.exec(entry)
      const one = /^(\d+)\s+(.+)$/.exec(entry)
      const cause = byName((many?.[1] ?? one?.[2] ?? '').trim())
      if (!many && !one) fail(`"${entry.slice(0, 40)}": write an item and its cause, such as 12 1`)
      else if (!cause) fail(`"${entry.slice(0, 40)}": the causes are ${listed}`)
      else if (many) for (const item of many[2]!.trim().split(/\s+/)) take(Number(item), cause)
      else take(Number(one![1]), cause)
    }
  })
  return { causes: [...causes].map(([item, cause]) => ({ item, cause })), problems }
}
