import ICAL from 'ical.js'

/** Days of the longest month of each number, a leap year's February among them. */
const longestMonth = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]
const longestInterval = 1000
/** Values that one part of a rule may list; RFC 5545 has no use for more (366 days of the year, and backwards). */
const mostValues = 800

type Parts = Partial<Record<string, (string | number)[]>>

/** A day of a month that no month named by the rule has, such as the 30th of February. */
function neverComes({ BYMONTH, BYMONTHDAY }: Parts): boolean {
  if (!BYMONTHDAY?.length) return false
  const months = BYMONTH?.length ? BYMONTH.map(Number) : longestMonth.map((_, at) => at + 1)
  const longest = Math.max(0, ...months.map((month) => longestMonth[month - 1] ?? 0))
  return BYMONTHDAY.every((day) => Math.abs(Number(day)) > longest || Number(day) === 0)
}

/**
 * What stands against a recurrence rule (RFC 5545 3.3.10) before it is followed: what goes on by the second or minute, what
 * leaves out so much that it never ends, what never comes. A rule that passes may still take long: who follows it keeps count.
 */
export function ruleProblem(rule: unknown): string | undefined {
  if (!(rule instanceof ICAL.Recur)) return 'its recurrence cannot be read'
  const parts = rule.parts as Parts
  if (rule.freq === 'SECONDLY' || rule.freq === 'MINUTELY')
    return 'it recurs by the second or minute; no commitment does'
  if (!(rule.interval >= 1 && rule.interval <= longestInterval))
    return `it recurs at an interval of ${rule.interval}; at most ${longestInterval}`
  if (Object.values(parts).some((values) => (values?.length ?? 0) > mostValues))
    return 'its recurrence lists too much'
  return neverComes(parts) ? 'it recurs on a day that never comes' : undefined
}

/** The first thing that stands against the rules of an event or of a part of a time zone. */
export function rulesProblem(component: ICAL.Component): string | undefined {
  for (const name of ['rrule', 'exrule'])
    for (const property of component.getAllProperties(name)) {
      const problem = ruleProblem(property.getFirstValue())
      if (problem) return problem
    }
  return undefined
}
