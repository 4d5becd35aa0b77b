import { z } from 'zod'
import { PlainDate, table, Version } from './shared'

/**
 * What a preview rested on: the minute, in the candidate's zone, and the version of everything stored that it was worked out
 * from. It travels with the acceptance, so that what is stored is what was shown.
 */
export const Basis = z.object({
  date: PlainDate,
  minute: z.number().int().min(0).max(1440),
  versions: table(z.string().max(60), Version, 10_000),
})
export type Basis = z.infer<typeof Basis>

const sumOf = (rows: { version: number }[]): number => rows.reduce((sum, { version }) => sum + version, 0)

/** Versions of a stored record, by what they are of: parts, the plan, its sessions together, each attempt, the notes of reviews together, and what was recalled. */
export function versionsOf(stored: {
  parts: Partial<Record<string, { version: number }>>
  plan: { version: number; sessions: { version: number }[] } | null
  attempts: { id: string; version: number }[]
  review: { version: number }[]
  recalled: { version: number }
}): Basis['versions'] {
  const parts = Object.entries(stored.parts).flatMap(([part, found]) =>
    found?.version ? [[part, found.version] as const] : [],
  )
  const attempts = stored.attempts.map(({ id, version }) => [`attempt ${id}`, version] as const)
  return {
    ...Object.fromEntries([...parts, ...attempts]),
    ...(stored.review.length && { review: sumOf(stored.review) }),
    ...(stored.recalled.version && { recalled: stored.recalled.version }),
    ...(stored.plan && {
      plan: stored.plan.version,
      sessions: sumOf(stored.plan.sessions),
    }),
  }
}

/** What of two sets of versions differs, in words that name it. */
export const changedSince = (then: Basis['versions'], now: Basis['versions']): string[] =>
  [...new Set([...Object.keys(then), ...Object.keys(now)])]
    .filter((key) => then[key] !== now[key])
    .map((key) =>
      key.startsWith('attempt ') ? 'what was sat' : key === 'recalled' ? 'what was recalled' : key,
    )
    .filter((key, at, all) => all.indexOf(key) === at)
