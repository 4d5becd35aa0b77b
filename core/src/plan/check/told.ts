import exp from '@stdlib/math-base-special-exp'
import type { Plan, PlanSession } from '@climber/contract'
import { at } from './facts'

/** What the words of a plan are held against: what the planner was told, in plain figures. */
export interface ToldInput {
  sitting: { date: string; start: string; registerBy?: string }
  today: string
  /** Values as the planner counted them; days on which each was touched before today, ascending. */
  topics: {
    id: string
    title: string
    share: number
    known: number
    value: number
    tau: number
    touches: number[]
  }[]
  forms: { id: string; source: string }[]
  /** Length of a whole test, in minutes. */
  testMinutes: number
  travelMinutes: number
}

type Study = Extract<PlanSession, { kind: 'learn' | 'drill' | 'mixed' }>
const isStudy = (session: PlanSession): session is Study =>
  session.kind === 'learn' || session.kind === 'drill' || session.kind === 'mixed'
const stands = ({ status }: PlanSession) => status !== 'slipped' && status !== 'skipped'
const before = (a: PlanSession, b: PlanSession) =>
  a.date < b.date || (a.date === b.date && (a.start < b.start || (a.start === b.start && a.id < b.id)))

/** A figure as it is written, against what it is: half a unit of its last digit may be off. */
const says = (written: string | undefined, value: number, unit: number): boolean =>
  written !== undefined &&
  Math.abs(Number(written) * unit - value) <= unit * 0.5 + 1e-6 * Math.abs(value) + 1e-9
const percent = (written: string | undefined, share: number) => says(written, share, 0.01)
const tenths = (written: string | undefined, value: number) =>
  written !== undefined && Math.abs(Number(written) - value) <= 0.05 + 1e-6 * Math.abs(value) + 1e-9

/** Share of what was new that is at hand `day`, after touches on `days`: stability 4 days at first, 1.8 times that after a spaced one. */
function keptOn(days: number[], day: number): number {
  let stability = 0
  let last: number | undefined
  for (const one of days) {
    if (last === undefined) stability = 4
    else if (one - last >= Math.max(1, stability / 4)) stability *= 1.8
    last = one
  }
  return last === undefined ? 1 : exp(-Math.max(0, day - last) / stability)
}

/** What is so of each topic when a session begins. */
class State {
  private readonly known = new Map<string, number>()
  private readonly days = new Map<string, number[]>()
  private readonly byId
  constructor(private readonly topics: ToldInput['topics']) {
    this.byId = new Map(topics.map((topic) => [topic.id, topic]))
    for (const { id, known, touches } of topics) {
      this.known.set(id, known)
      this.days.set(id, [...touches])
    }
  }
  topic(id: string | undefined) {
    return this.byId.get(id ?? '')
  }
  titled(title: string) {
    return this.topics.filter((topic) => topic.title === title)
  }
  share(id: string): number {
    return this.known.get(id) ?? 0
  }
  gain(id: string): number {
    const topic = this.byId.get(id)
    return topic ? (topic.value * (1 - this.share(id))) / topic.tau : 0
  }
  most(but: string): number {
    return Math.max(0, ...this.topics.filter(({ id }) => id !== but).map(({ id }) => this.gain(id)))
  }
  met(id: string): number[] {
    return this.days.get(id) ?? []
  }
  works({ topics, minutes, date }: Study): void {
    const own = topics.filter((id) => this.byId.has(id))
    for (const id of own) {
      const { tau } = this.byId.get(id)!
      this.known.set(id, 1 - (1 - this.share(id)) * exp(-(minutes / 60 / own.length) / tau))
      this.days.set(id, [...this.met(id), at(date)])
    }
  }
}

const worth = '(?:brings|counts for)'
const towards = '(?: towards the target and every cut)?'
const notBegun = new RegExp(
  `^(.+) is (\\d+)% of the exam and not begun yet: an hour ${worth} about ([\\d.]+) points${towards}\\.(.*)$`,
)
const most = new RegExp(
  `^No hour ${worth} more just then than one on (.+): about ([\\d.]+) points${towards}, with (\\d+)% of the exam and about (\\d+)% of it known\\.(.*)$`,
)
const fades =
  /^(.+) was last met (\d+) days? before, and about (\d+)% of what was new is gone by then: a touch brings it back\.(.*)$/
const itsShare = new RegExp(
  `^(.+) has its share of the hours: it is (\\d+)% of the exam, about (\\d+)% of it is known by then, and an hour ${worth} about ([\\d.]+) points${towards}\\.(.*)$`,
)
const instead =
  /^ (.+) would (?:bring|count for) about ([\d.]+)(?: and has (?:(a session)|(\d+) sessions) of its own)?\.$/
const mixed =
  /^What fades fastest of what was met: (.+) was last met (\d+) days? before, and about (\d+)% of what was new is still at hand\.$/

/** Whether what is told of another topic is so. */
function elseIsSo(words: string, state: State, own: number, ahead: Study[]): boolean {
  if (!words) return true
  const [, title = '', gain, one, count] = instead.exec(words) ?? []
  const sessions = (id: string) => ahead.filter(({ topics }) => topics.includes(id)).length
  return state.titled(title).some(({ id }) => {
    const has = sessions(id)
    const told = one ? 1 : Number(count ?? 0)
    return tenths(gain, state.gain(id)) && state.gain(id) >= 1.5 * own - 1e-9 && has === told
  })
}

/** Whether what is told of a session on one topic is so. */
function topicIsSo(words: string, session: Study, state: State, ahead: Study[]): boolean {
  const topic = state.topic(session.topics[0])
  if (!topic) return false
  const { id, title, share } = topic
  const days = state.met(id)
  const last = days[days.length - 1]
  const gain = state.gain(id)
  const rest = (more: string | undefined) => elseIsSo(more ?? '', state, gain, ahead)
  let match = notBegun.exec(words)
  if (match)
    return (
      match[1] === title &&
      percent(match[2], share) &&
      !days.length &&
      tenths(match[3], gain) &&
      rest(match[4])
    )
  match = most.exec(words)
  if (match)
    return (
      match[1] === title &&
      tenths(match[2], gain) &&
      percent(match[3], share) &&
      percent(match[4], state.share(id)) &&
      gain >= state.most(id) - 1e-9 &&
      rest(match[5])
    )
  match = fades.exec(words)
  if (match)
    return (
      match[1] === title &&
      last !== undefined &&
      Number(match[2]) === at(session.date) - last &&
      percent(match[3], 1 - keptOn(days, at(session.date))) &&
      rest(match[4])
    )
  match = itsShare.exec(words)
  return (
    match !== null &&
    match[1] === title &&
    percent(match[2], share) &&
    percent(match[3], state.share(id)) &&
    tenths(match[4], gain) &&
    rest(match[5])
  )
}

/** Whether what is told of a mixed set is so, that all in it was met before among it. */
function mixedIsSo(words: string, session: Study, state: State): boolean {
  const day = at(session.date)
  if (!session.topics.every((id) => state.met(id).length)) return false
  if (words === 'What fades fastest of what was met, taken together.') return true
  const [, title, days, kept] = mixed.exec(words) ?? []
  const topic = state.topic(session.topics[0])
  if (!topic) return false
  const met = state.met(topic.id)
  return (
    title === topic.title && Number(days) === day - met[met.length - 1]! && percent(kept, keptOn(met, day))
  )
}

function studyIsSo(words: string, session: Study, state: State, ahead: Study[], plan: Plan): boolean {
  if (session.said !== undefined) return words === session.said
  if (session.rest) {
    const [, on] = /^The rest of what was begun on (\S+)\.$/.exec(words) ?? []
    const whole = plan.sessions.find(({ id }) => id === session.rest?.of)
    return on === session.rest.on && (!whole || whole.date === on)
  }
  if (session.remedy) {
    const { misses, marks } = session.remedy
    const [, count, cost] =
      /^A review found this the cause of (one miss|\d+ misses)(?:, and cost ([\d.]+) marks)?\. \S/.exec(
        words,
      ) ?? []
    return (
      count === (misses === 1 ? 'one miss' : `${misses} misses`) &&
      (marks > 0 ? tenths(cost, marks) : cost === undefined)
    )
  }
  if (session.timed) {
    const [, items] = /^The timed work of this week: (\d+) items at the pace of the exam, /.exec(words) ?? []
    return Number(items) === session.timed.items
  }
  if (!session.reason) return words === ''
  return session.kind === 'mixed' ? mixedIsSo(words, session, state) : topicIsSo(words, session, state, ahead)
}

/** First days of the whole tests that stand in a plan, ascending. */
const testDays = ({ sessions }: Plan): number[] =>
  [
    ...new Set(
      sessions.flatMap((one) =>
        one.kind === 'test' && stands(one) && !one.sections && (one.split?.number ?? 1) === 1
          ? [at(one.date)]
          : [],
      ),
    ),
  ].sort((a, b) => a - b)

function testIsSo(
  words: string,
  test: Extract<PlanSession, { kind: 'test' }>,
  plan: Plan,
  input: ToldInput,
): boolean {
  const maker = input.forms.find(({ id }) => id === test.form)?.source === 'publisher' ? 'publisher' : 'other'
  const told = /one of the publisher's/.test(words)
    ? 'publisher'
    : /another maker's/.test(words)
      ? 'other'
      : maker
  if (told !== maker) return false
  const before = /, (\d+) days? before the exam\./.exec(words)
  if (before && Number(before[1]) !== at(input.sitting.date) - at(test.date)) return false
  const every = /^A test about every (\d+) days? /.exec(words)
  if (every) {
    const days = testDays(plan)
    const place = days.indexOf(at(test.date))
    const gaps = [place - 1, place + 1].flatMap((other) =>
      days[other] === undefined ? [] : [Math.abs(days[other]! - days[place]!)],
    )
    const mean = gaps.reduce((sum, gap) => sum + gap, 0) / Math.max(1, gaps.length)
    if (place < 0 || !gaps.length || Math.abs(Number(every[1]) - mean) > 0.5) return false
  }
  const starts = /It starts at (\d\d:\d\d)/.exec(words)
  if (starts && starts[1] !== test.start) return false
  const whole = /holds the whole (\d+) minutes/.exec(words)
  return !whole || Number(whole[1]) === input.testMinutes
}

function reviewIsSo(words: string, review: Extract<PlanSession, { kind: 'review' }>, plan: Plan): boolean {
  const match =
    /^(?:Part (\d+) of (\d+) of the|The) (\d+) minutes of review that this test is worth: ([\d.]+) times its own length\. /.exec(
      words,
    )
  if (!match) return !/minutes of review/.test(words)
  const live = plan.sessions.filter(stands)
  const own = live
    .filter((one): one is typeof review => one.kind === 'review' && one.of === review.of && !one.rest)
    .sort((a, b) => (before(a, b) ? -1 : 1))
  const part = live.find(({ id }) => id === review.of)
  if (part?.kind !== 'test') return false
  const tested = part.split
    ? live.filter(
        (one) =>
          one.kind === 'test' && one.split && one.form === part.form && one.split.of === part.split!.of,
      )
    : [part]
  const minutes = (all: PlanSession[]) => all.reduce((sum, one) => sum + one.minutes, 0)
  const [, number = '1', of = '1', whole, ratio] = match
  return (
    own.length === Number(of) &&
    own[Number(number) - 1]?.id === review.id &&
    minutes(own) === Number(whole) &&
    (part.split ? true : Math.abs(Number(ratio) - minutes(own) / minutes(tested)) <= 0.005 + 1e-9)
  )
}

function restIsSo(words: string, session: PlanSession, plan: Plan, input: ToldInput): boolean {
  switch (session.kind) {
    case 'retest': {
      const told = /^(\d+) days? after its review/.exec(words)
      const reviews = plan.sessions.filter(
        (one) => one.kind === 'review' && one.of === session.of && stands(one) && before(one, session),
      )
      return (
        !told ||
        !reviews.length ||
        Number(told[1]) === at(session.date) - Math.max(...reviews.map(({ date }) => at(date)))
      )
    }
    case 'errand': {
      const later = /^Registration closes (\d+) days? later/.exec(words)
      if (later) return Number(later[1]) === at(input.sitting.registerBy ?? '') - at(session.date)
      if (/^Registration closes that day/.test(words)) return input.sitting.registerBy === session.date
      const way = /^The way there takes (\d+) minutes/.exec(words)
      const trip = /^(\d+) minutes there and back/.exec(words)
      return (
        (!way || Number(way[1]) === input.travelMinutes) && (!trip || Number(trip[1]) === session.minutes)
      )
    }
    default:
      return true
  }
}

/**
 * Reads every explanation of a plan's sessions still to come, as a person would, and holds each figure and claim in it against the plan and
 * what the planner was told. Shares no code with the planner or with what makes the words. Those that are not so.
 */
export function falseWords(input: ToldInput, plan: Plan, why: (session: PlanSession) => string): string[] {
  const state = new State(input.topics)
  const coming = plan.sessions
    .filter((session) => session.status === 'planned' && session.date >= input.today)
    .sort((a, b) => (before(a, b) ? -1 : 1))
  const ahead = coming.filter(isStudy)
  const wrong: string[] = []
  for (const session of coming) {
    const words = why(session)
    const so = isStudy(session)
      ? studyIsSo(words, session, state, ahead, plan)
      : session.kind === 'test'
        ? testIsSo(words, session, plan, input)
        : session.kind === 'review'
          ? reviewIsSo(words, session, plan)
          : restIsSo(words, session, plan, input)
    if (!so || /undefined|NaN|null|-\d+ day/.test(words))
      wrong.push(`${session.id} on ${session.date}: ${words || '(nothing)'}`)
    if (isStudy(session)) state.works(session)
  }
  return wrong
}
