import type { Availability, Busy, ExamFormat, Plan, PlanSession, Settings, Sitting } from '@climber/contract'

/**
 * The independent checker: verifies that a plan breaks no rule of docs/models.md, 4. It shares no code with the planner,
 * dates and lengths included, so that a mistake there is not repeated here.
 */
export interface CheckInput {
  exam: ExamFormat
  sitting: Sitting
  today: string
  nowMinute: number
  availability: Availability
  busy: Busy[]
  settings: Settings
  sat: { form: string; date: string }[]
  measured: boolean
  kept: PlanSession[]
  /** Topics touched before today. */
  begun: string[]
}

export interface Violation {
  rule:
    | 'unique'
    | 'kept'
    | 'range'
    | 'free'
    | 'overlap'
    | 'day-cap'
    | 'week-cap'
    | 'busy'
    | 'retest'
    | 'test-length'
    | 'test-said'
    | 'review'
    | 'reserved'
    | 'resit'
    | 'order'
    | 'taper'
  message: string
}

const dayMs = 86_400_000
/** Days and minutes are asked for again and again; the answers are kept. */
const once = <K, V>(work: (key: K) => V): ((key: K) => V) => {
  const found = new Map<K, V>()
  return (key) => {
    const known = found.get(key)
    if (known !== undefined) return known
    const value = work(key)
    found.set(key, value)
    return value
  }
}
const at = once((date: string): number => {
  const [year, month, day] = date.split('-').map(Number) as [number, number, number]
  return Math.round(Date.UTC(year, month - 1, day) / dayMs)
})
const clock = once((time: string): number => {
  const [hours, minutes] = time.split(':').map(Number) as [number, number]
  return hours * 60 + minutes
})
const weekday = once((day: number): number => new Date(day * dayMs).getUTCDay() || 7)
const weekOf = (day: number): number => day - (weekday(day) - 1)
const active = (session: PlanSession): boolean => session.status !== 'slipped' && session.status !== 'skipped'

export function checkPlan(input: CheckInput, plan: Plan): Violation[] {
  const found: Violation[] = []
  const fail = (rule: Violation['rule'], message: string) => void found.push({ rule, message })
  const { exam, settings, availability } = input
  const today = at(input.today)
  const examDay = at(input.sitting.date)
  const keptIds = new Set(input.kept.map(({ id }) => id))
  const made = plan.sessions.filter(({ id }) => !keptIds.has(id))
  const live = plan.sessions.filter(active)

  if (new Set(plan.sessions.map(({ id }) => id)).size !== plan.sessions.length)
    fail('unique', 'two sessions share an id')
  for (const before of input.kept) {
    const after = plan.sessions.find(({ id }) => id === before.id)
    if (JSON.stringify(after) !== JSON.stringify(before)) fail('kept', `${before.id} was to stay as it was`)
  }

  const off = new Set(availability.daysOff.map(at))
  const exceptions = new Map(
    availability.exceptions.map((exception) => [at(exception.date), exception.windows]),
  )
  const engaged = new Map<string, Busy[]>()
  for (const busy of input.busy) engaged.set(busy.date, [...(engaged.get(busy.date) ?? []), busy])
  for (const session of made) {
    const day = at(session.date)
    const from = clock(session.start)
    const to = from + session.minutes
    if (day < today || day >= examDay)
      fail('range', `${session.id} on ${session.date} is outside the plan's days`)
    if (day === today && from < input.nowMinute) fail('range', `${session.id} starts in the past`)
    const windows =
      exceptions.get(day) ?? availability.windows.filter((window) => window.weekday === weekday(day))
    const light = session.kind === 'light' || session.kind === 'errand'
    if (
      off.has(day) ||
      !windows.some(
        (window: { from: string; to: string; light?: boolean }) =>
          clock(window.from) <= from && to <= clock(window.to) && (light || !window.light),
      )
    )
      fail('free', `${session.id} on ${session.date} ${session.start} is not inside free time`)
    for (const busy of engaged.get(session.date) ?? [])
      if (clock(busy.from) < to && from < clock(busy.to))
        fail('busy', `${session.id} on ${session.date} ${session.start} meets a commitment from ${busy.from}`)
    if (!availability.nights && (from < 360 || to > 1380)) fail('free', `${session.id} runs into the night`)
    if (day >= examDay - settings.taperDays && session.kind !== 'light' && session.kind !== 'errand')
      fail('taper', `${session.id} is ${session.kind} in the taper`)
  }

  const byDay = new Map<number, PlanSession[]>()
  for (const session of live) byDay.set(at(session.date), [...(byDay.get(at(session.date)) ?? []), session])
  for (const [day, sessions] of byDay) {
    const sorted = [...sessions].sort((a, b) => clock(a.start) - clock(b.start))
    sorted.forEach((session, place) => {
      for (const other of sorted.slice(place + 1))
        if (
          clock(other.start) < clock(session.start) + session.minutes &&
          !(keptIds.has(session.id) && keptIds.has(other.id))
        )
          fail('overlap', `${session.id} and ${other.id} overlap on ${session.date}`)
    })
    const total = sessions.reduce((sum, { minutes }) => sum + minutes, 0)
    const bound = sessions.reduce((sum, { id, minutes }) => (keptIds.has(id) ? sum + minutes : sum), 0)
    if (day >= today && total > Math.max(bound, availability.minutesPerDay) && total > bound)
      fail('day-cap', `${sessions[0]!.date} has ${total} minutes; the cap is ${availability.minutesPerDay}`)
  }
  const weeks = new Map<number, { all: Set<number>; bound: Set<number> }>()
  for (const [day, sessions] of byDay) {
    const week = weeks.get(weekOf(day)) ?? { all: new Set(), bound: new Set() }
    week.all.add(day)
    if (sessions.some(({ id }) => keptIds.has(id))) week.bound.add(day)
    weeks.set(weekOf(day), week)
  }
  for (const [monday, { all, bound }] of weeks)
    if (all.size > bound.size && all.size > availability.daysPerWeek)
      fail(
        'week-cap',
        `the week of day ${monday} has ${all.size} days of work; the cap is ${availability.daysPerWeek}`,
      )

  const { minutesPerWeek } = availability
  if (minutesPerWeek !== undefined)
    for (const monday of weeks.keys()) {
      const sum = (list: PlanSession[]) =>
        list
          .filter(({ date }) => weekOf(at(date)) === monday)
          .reduce((minutes, session) => minutes + session.minutes, 0)
      const bound = sum(live.filter(({ id }) => keptIds.has(id)))
      const all = sum(live)
      if (all > bound && all > minutesPerWeek && monday >= weekOf(today))
        fail('week-cap', `the week of day ${monday} has ${all} minutes; the cap is ${minutesPerWeek}`)
    }

  const length = (ids?: string[]): number => {
    const sections = exam.sections.filter(({ id }) => !ids || ids.includes(id))
    let sum = 0
    sections.forEach((section, place) => {
      sum += Math.ceil(section.minutes * settings.timeFactor)
      if (place + 1 < sections.length) sum += Math.ceil(section.breakAfter)
    })
    return sum
  }
  const full = length()
  const tests = live
    .filter(({ kind }) => kind === 'test')
    .sort((a, b) => at(a.date) - at(b.date) || clock(a.start) - clock(b.start))
  const whole: { parts: PlanSession[] }[] = []
  for (const test of tests) {
    const before = whole[whole.length - 1]
    const firstPart = before?.parts[0]
    if (
      firstPart?.sections &&
      test.sections &&
      firstPart.form === test.form &&
      before!.parts.length === 1 &&
      at(test.date) - at(firstPart.date) < 17 &&
      !test.sections.some((id) => firstPart.sections!.includes(id))
    )
      before!.parts.push(test)
    else whole.push({ parts: [test] })
  }
  whole.forEach(({ parts }, place) => {
    const [first] = parts as [PlanSession]
    const last = parts[parts.length - 1]!
    if (keptIds.has(first.id)) return
    for (const part of parts)
      if (part.minutes !== length(part.sections))
        fail('test-length', `${part.id} is ${part.minutes} minutes, not ${length(part.sections)}`)
    const covered = parts.flatMap(({ sections }) => sections ?? exam.sections.map(({ id }) => id))
    if (covered.length !== exam.sections.length || new Set(covered).size !== exam.sections.length)
      fail('test-length', `${first.id} does not cover every section once`)
    if (parts.length > 1 && !parts.every(({ title }) => title.includes('split')))
      fail('test-said', `${first.id} is split and not marked so`)
    if (first.start !== input.sitting.start && !/starts at|Split/.test(first.why.text))
      fail('test-said', `${first.id} is not at the exam's time of day and does not say why`)
    const ends = at(last.date) * 1440 + clock(last.start) + last.minutes
    const next = whole[place + 1]?.parts[0]
    const nextStart = next && !keptIds.has(next.id) ? at(next.date) * 1440 + clock(next.start) : Infinity
    const reviews = live.filter(({ kind, of }) => kind === 'review' && of === last.id)
    const minutes = reviews.reduce((sum, review) => sum + review.minutes, 0)
    if (Math.abs(minutes - full * settings.reviewRatio) > 2.5)
      fail('review', `${last.id} has ${minutes} minutes of review; ${full * settings.reviewRatio} are due`)
    for (const review of reviews) {
      const start = at(review.date) * 1440 + clock(review.start)
      if (start < ends) fail('review', `${review.id} comes before its test has ended`)
      if (start + review.minutes > nextStart)
        fail('review', `${review.id} is not finished before the next test`)
    }
    const form = exam.forms.find(({ id }) => id === first.form)
    if (!form) return fail('resit', `${first.id} has no form of this exam`)
    const names = settings.stages
      ? settings.stages.filter((stage) => stage.rehearsal).map(({ name }) => name)
      : ['Rehearse', 'Sprint']
    const rehearsal =
      plan.phases.some(
        ({ name, from, to }) => names.includes(name) && from <= first.date && first.date <= to,
      ) || (settings.rehearsals ?? []).some((days) => Math.abs(examDay - days - at(first.date)) <= 3)
    const baseline = place === 0 && !input.measured
    if (form.source === 'publisher' && !first.seen && !rehearsal && !baseline)
      fail('reserved', `${first.id} uses the publisher's ${form.id} before rehearsal`)
    const earlier = [
      ...input.sat.filter((sitting) => sitting.form === form.id).map(({ date }) => at(date)),
      ...whole
        .slice(0, place)
        .filter(({ parts }) => parts[0]!.form === form.id)
        .map(({ parts }) => at(parts[parts.length - 1]!.date)),
    ]
    if (earlier.length && !first.seen) fail('resit', `${first.id} was sat before and is not marked seen`)
    if (earlier.some((day) => at(first.date) - day < 21))
      fail('resit', `${first.id} comes less than 21 days after the same form`)
  })

  for (const retest of made.filter(({ kind }) => kind === 'retest')) {
    const reviews = live
      .filter(({ kind, of }) => kind === 'review' && of === retest.of)
      .map(({ date }) => at(date))
    if (reviews.length && at(retest.date) - Math.max(...reviews) < (settings.retestDays ?? 7))
      fail('retest', `${retest.id} comes ${at(retest.date) - Math.max(...reviews)} days after its review`)
  }

  // When each topic is first met, and whether by a session that was this plan's to place.
  const begun = new Map<string, { start: number; placed: boolean }>()
  const inTime = [...live].sort((a, b) => at(a.date) - at(b.date) || clock(a.start) - clock(b.start))
  for (const session of inTime)
    for (const topic of session.topics)
      if (!begun.has(topic))
        begun.set(topic, {
          start: at(session.date) * 1440 + clock(session.start),
          placed: !keptIds.has(session.id),
        })
  for (const topic of exam.topics) {
    const own = begun.get(topic.id)
    if (!own?.placed || input.begun.includes(topic.id)) continue
    for (const needed of topic.prerequisites) {
      const before = begun.get(needed)
      if (before?.placed && before.start >= own.start && !input.begun.includes(needed))
        fail('order', `${topic.id} is begun before ${needed}, which it builds on`)
    }
  }
  return found
}
