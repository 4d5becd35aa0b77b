import type { Availability, PlanNotice, Settings } from '@climber/contract'
import { minuteOf, timeOf } from '../time/day'
import type { PlanInput } from './input'
import { testMinutes } from './tests/lengths'

/** A sitting at most so late in the day leaves room for a whole test; none begins before six. */
const latestEnd = 1380
const earliestStart = 360
const removable = ['no-rehearsal', 'short-review', 'test-no-room', 'tests-thinned', 'retest-no-room']

/** Changes of one thing that may make room, smallest first; each is tried out. */
function changesToTry(input: PlanInput): { words: string; changed: PlanInput }[] {
  const { availability, settings } = input
  const full = testMinutes(input.exam.sections, settings.timeFactor)
  const time = (change: Partial<Availability>) => ({ ...input, availability: { ...availability, ...change } })
  const habit = (change: Partial<Settings>) => ({ ...input, settings: { ...settings, ...change } })
  const tries: { words: string; changed: PlanInput }[] = []
  if (settings.reviewRatio > 1)
    tries.push({ words: 'a review as long as the test', changed: habit({ reviewRatio: 1 }) })
  if (availability.daysPerWeek < 6)
    tries.push({
      words: `${availability.daysPerWeek + 1} days a week`,
      changed: time({ daysPerWeek: availability.daysPerWeek + 1 }),
    })
  const cap = Math.min(900, Math.ceil((Math.max(full, availability.minutesPerDay) + 60) / 30) * 30)
  tries.push({ words: `a cap of ${cap} minutes a day`, changed: time({ minutesPerDay: cap }) })
  const from = Math.min(minuteOf(input.sitting.start), latestEnd - full)
  if (from >= earliestStart) {
    const block = { from: timeOf(from), to: timeOf(from + full) }
    for (const [weekday, words] of [
      [6, 'Saturdays'],
      [7, 'Sundays'],
    ] as const) {
      const windows = [
        ...availability.windows.filter((one) => one.weekday !== weekday),
        { weekday, ...block },
      ]
      tries.push({ words: `${words} free from ${block.from} to ${block.to}`, changed: time({ windows }) })
    }
  }
  tries.push({
    words: 'ten per cent less slack',
    changed: habit({ slackShare: Math.max(0, settings.slackShare - 0.1) }),
  })
  return tries
}

/**
 * Each notice with the one change that, tried out, removes it; `noticesWith` says what another input would still be told. For what was
 * `said` before in the same words nothing is tried out again.
 */
export function withRemedies(
  input: PlanInput,
  notices: PlanNotice[],
  noticesWith: (changed: PlanInput) => PlanNotice[],
  said: PlanNotice[] = [],
): PlanNotice[] {
  const known = (notice: PlanNotice) =>
    said.find(({ code, message, remedy }) => remedy && code === notice.code && message === notice.message)
  const open = notices.filter((notice) => removable.includes(notice.code) && !known(notice))
  if (!open.length) return notices.map((notice) => known(notice) ?? notice)
  const found = new Map<string, string>()
  for (const { words, changed } of changesToTry(input)) {
    if (found.size === open.length) break
    const still = new Set(noticesWith(changed).map(({ code }) => code))
    for (const { code } of open)
      if (!still.has(code) && !found.has(code)) found.set(code, `Tried out: ${words} would make it fit.`)
  }
  return notices.map((notice) => {
    if (!open.includes(notice)) return known(notice) ?? notice
    return {
      ...notice,
      remedy: found.get(notice.code) ?? 'No single change of those tried makes it all fit.',
    }
  })
}
