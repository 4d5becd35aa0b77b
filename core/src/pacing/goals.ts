import type { PaceGoal, SectionPacing } from '@climber/contract'
import type { Anchor, Step } from './budget'

/** What a goal is read against. */
export interface GoalGround {
  items: number
  /** Items of each set, in order; none where the section has no item sets. */
  sets: number[]
  /** Minute of the day at which the section starts, for goals by the clock. */
  startMinute?: number
}

const small: Record<string, number> = {
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  ten: 10,
  eleven: 11,
  twelve: 12,
  fifteen: 15,
  twenty: 20,
  thirty: 30,
  forty: 40,
  fifty: 50,
  sixty: 60,
}
const pastHour: Record<string, number> = { 'quarter past': 15, 'half past': 30, 'quarter to': 45 }
const number = '(\\d+(?:[.,]\\d+)?)'
const minutesWord = '(?:minutes?|mins?|min|m)'
const secondsWord = '(?:seconds?|secs?|sec|s)'

const valueOf = (text: string): number => Number(text.replace(',', '.'))

/** Minutes from the section's start until a time on the clock; the next such time after the start. */
function untilClock(minute: number, start: number, cycle: number): number {
  const away = (minute - start) % cycle
  return away > 0 ? away : away + cycle
}

type Read = { goal: PaceGoal } | { problem: string }

/**
 * A goal as people say it: "first 22 by half past", "the first 20 by 22 min", "four sets at eleven minutes",
 * "10 items at 45 seconds", "last 6 in 12 minutes", "half by 10:30".
 */
export function readGoal(text: string, ground: GoalGround): Read {
  const said = text
    .toLowerCase()
    .replace(/\bforty[- ]five\b/g, '45')
    .replace(/\btwenty[- ](\w+)\b/g, (whole, unit: string) =>
      small[unit] && small[unit] < 10 ? String(20 + small[unit]) : whole,
    )
    .replace(/[a-z]+/g, (word) => (word in small ? String(small[word]) : word))
    .replace(/\bhalf an hour\b/g, '30 minutes')
    .replace(/\ban hour\b/g, '60 minutes')
    .replace(/^\s*(the\s+)?/, '')
    .trim()
  const find = (pattern: string) => new RegExp(`^${pattern}\\s*(?:each)?\\.?$`).exec(said)

  const sets = find(`(?:first\\s+)?(\\d+)\\s+sets?\\s+(?:at|in|of)\\s+${number}\\s*${minutesWord}`)
  if (sets) return { goal: { kind: 'sets', sets: Number(sets[1]), minutesEach: valueOf(sets[2]!) } }

  const each = find(
    `(?:first\\s+)?(\\d+)(?:\\s+(?:items?|questions?))?\\s+at\\s+${number}\\s*(${secondsWord}|${minutesWord})`,
  )
  if (each) {
    const seconds = each[3]!.startsWith('m') ? 60 * valueOf(each[2]!) : valueOf(each[2]!)
    return { goal: { kind: 'each', items: Number(each[1]), seconds } }
  }
  const last = find(
    `last\\s+(\\d+)(?:\\s+(?:items?|questions?))?\\s+in\\s+(?:the\\s+last\\s+)?${number}\\s*${minutesWord}?`,
  )
  if (last) return { goal: { kind: 'last', items: Number(last[1]), minutes: valueOf(last[2]!) } }

  const by =
    /^(?:first\s+)?(\d+|half|halfway)(?:\s+(?:items?|questions?|of them))?\s+(?:by|in|within)\s+(.+?)\.?$/.exec(
      said,
    )
  if (!by)
    return {
      problem:
        'say it like “first 22 by half past”, “first 20 by 22 min”, “four sets at eleven minutes”, “10 items at 45 s” or “last 6 in 12 min”',
    }
  const items = by[1]!.startsWith('half') ? Math.floor(ground.items / 2) : Number(by[1])
  const when = by[2]!.trim()
  const clock = /^(\d{1,2})[:.](\d{2})$/.exec(when)
  const past = pastHour[when]
  if ((clock || past !== undefined) && ground.startMinute === undefined)
    return { problem: 'a time on the clock needs a start; choose a sitting, or say minutes' }
  if (past !== undefined)
    return { goal: { kind: 'by', items, minutes: untilClock(past, ground.startMinute! % 60, 60) } }
  if (clock) {
    const minute = Number(clock[1]) * 60 + Number(clock[2])
    return { goal: { kind: 'by', items, minutes: untilClock(minute, ground.startMinute!, 1440) } }
  }
  const minutes = new RegExp(`^(?:minute\\s+)?${number}\\s*${minutesWord}?$`).exec(when)
  return minutes
    ? { goal: { kind: 'by', items, minutes: valueOf(minutes[1]!) } }
    : { problem: `“${when}” is no time; say minutes, a time such as 10:30, or half past` }
}

const minutesWords = (minutes: number): string =>
  `${Number(minutes.toFixed(2))} ${minutes === 1 ? 'minute' : 'minutes'}`

/** A goal in words, as it was understood. */
export function goalWords(goal: PaceGoal): string {
  if (goal.kind === 'sets') return `the first ${goal.sets} sets at ${minutesWords(goal.minutesEach)} each`
  if (goal.kind === 'each') return `the first ${goal.items} items at ${goal.seconds} seconds each`
  if (goal.kind === 'last') return `the last ${goal.items} items in the last ${minutesWords(goal.minutes)}`
  return `the first ${goal.items} items by ${minutesWords(goal.minutes)}`
}

/** The goals of a section; a file of before has one. */
export const goalsOf = ({ goals, goal }: Pick<SectionPacing, 'goals' | 'goal'>): PaceGoal[] =>
  goals ?? (goal ? [{ kind: 'by', items: goal.items, minutes: goal.byMinutes }] : [])

/** A goal that does not fit, with what would be right. */
export interface GoalProblem {
  goal: number
  field: 'items' | 'minutes'
  message: string
}

/**
 * Goals as anchors of the budget, in rising order. Every stretch must leave its items their reading time and a second
 * each.
 */
export function anchorsOf(
  goals: PaceGoal[],
  steps: Step[],
  sets: number[],
  seconds: number,
): { anchors: Anchor[] } | { problem: GoalProblem } {
  const items = steps.length
  const found: (Anchor & { goal: number })[] = []
  for (const [at, goal] of goals.entries()) {
    const problem = (field: GoalProblem['field'], message: string) => ({
      problem: { goal: at, field, message },
    })
    if (goal.kind === 'sets') {
      if (!sets.length) return problem('items', 'this section has no item sets; name items')
      if (goal.sets > sets.length)
        return problem('items', `the goal names ${goal.sets} sets; the section has ${sets.length}`)
      // The first set begins where the groups before it end.
      const before = steps.length - sets.reduce((sum, own) => sum + own, 0)
      if (before > 0) return problem('items', 'put the item sets first in the order, or name items')
      let done = 0
      for (let set = 0; set < goal.sets; set++) {
        done += sets[set]!
        found.push({ items: done, at: (set + 1) * goal.minutesEach * 60, goal: at })
      }
      continue
    }
    const { items: named } = goal
    if (named > items || (goal.kind === 'last' && named >= items))
      return problem(
        'items',
        `the goal names ${named} items; ${goal.kind === 'last' ? 'fewer than ' : ''}the section's ${items} can be named`,
      )
    if (goal.kind === 'by') found.push({ items: named, at: goal.minutes * 60, goal: at })
    else if (goal.kind === 'each') found.push({ items: named, at: named * goal.seconds, goal: at })
    else found.push({ items: items - named, at: seconds - goal.minutes * 60, goal: at })
  }
  found.sort((a, b) => a.items - b.items || a.at - b.at)
  const anchors: Anchor[] = []
  let before: Anchor = { items: 0, at: 0 }
  for (const { goal, ...anchor } of found) {
    const same = anchor.items === before.items && anchor.items > 0
    const own = steps.slice(before.items, anchor.items)
    const least = own.reduce((sum, { reading }) => sum + reading + 1, 0)
    const message = (text: string) => ({ problem: { goal, field: 'minutes' as const, message: text } })
    if (anchor.at > seconds)
      return message(
        `${minutesWords(anchor.at / 60)} are past the ${minutesWords(seconds / 60)} there are to work in`,
      )
    if (same && Math.abs(anchor.at - before.at) > 0.5)
      return message('two goals name the same items and different times')
    if (!same && anchor.at - before.at < least)
      return message(
        before.items
          ? `from item ${before.items} to item ${anchor.items} only ${Math.round(anchor.at - before.at)} seconds would be left; at least ${least} are needed`
          : `${Math.round(anchor.at)} seconds are too few for the first ${anchor.items} items; at least ${least} are needed`,
      )
    if (!same) anchors.push(anchor)
    before = anchor
  }
  const rest = steps.slice(before.items)
  const least = rest.reduce((sum, { reading }) => sum + reading + 1, 0)
  if (found.length && rest.length && seconds - before.at < least) {
    const goal = found[found.length - 1]!.goal
    return {
      problem: {
        goal,
        field: 'minutes',
        message: `${minutesWords(before.at / 60)} leave no time for the items after the goal`,
      },
    }
  }
  // A goal for the whole section ends early: the end of the budget is the goal's.
  return { anchors: anchors.filter((anchor) => anchor.items < items || anchor.at < seconds) }
}
