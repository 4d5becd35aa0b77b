import {
  type Attempt,
  type Cause,
  type CandidateRecord,
  type ClimberFile,
  type Commitments,
  diagnosticId,
  type ExamFormat,
  type ItemResponse,
  type Materials,
  type PlanSession,
  recordFrom,
  type ReviewNote,
} from '@climber/contract'
import {
  againView,
  assess,
  blindGuess,
  dateOf,
  dayNumber,
  itemsOf,
  knownAfter,
  makePlan,
  minuteOf,
  planInput,
  topicCounts,
  topicsOf,
  weekdayOf,
} from '@climber/core'
import { aheadByWholeWeeks } from './dates'
import { answersTo as recalled, deck } from './deck'

/**
 * Three invented candidates of an invented exam, as Climber files dated from today: each plan is made on the day the
 * candidate began and lived through until yesterday. Stored plans could not simply be moved to today, because free
 * hours belong to weekdays.
 */
interface Life {
  email: string
  name: string
  note: string
  /** Days ago that the diagnostic was sat and the plan made. */
  began: number
  sitting: string
  target: number
  /** Right, wrong and blank of the diagnostic by section. */
  diagnostic: Record<string, [right: number, wrong: number, blank: number, notReached?: number]>
  ratings: Record<string, 'weak' | 'fair' | 'strong' | 'not-covered'>
  windows: [weekdays: number[], from: string, to: string][]
  /** Chance that a session is done: before, and in the last fortnight. */
  keeps: [number, number]
  /** How well the work takes, 1 as the model expects. */
  takes: number
  /** What there is to learn from. */
  shelf?: Materials['items']
  /** Weekly commitments: weekday, from, to. */
  busy?: [weekday: number, from: string, to: string][]
}

const lives: Life[] = [
  {
    email: 'wenna@demo.example',
    name: 'Wenna Tarrowby',
    note: 'Works on the ferry; evenings and one long day.',
    began: 0,
    sitting: 'third',
    target: 312,
    diagnostic: { streams: [17, 15, 8, 3], passage: [11, 12, 7, 4], signals: [25, 14, 6, 0] },
    ratings: {
      'tidal-curves': 'weak',
      'course-offset': 'not-covered',
      lights: 'strong',
      'under-keel': 'weak',
    },
    windows: [
      [[1, 2, 4], '18:00', '20:30'],
      [[6], '09:00', '15:00'],
    ],
    keeps: [1, 1],
    takes: 1,
  },
  {
    email: 'idrel@demo.example',
    name: 'Idrel Pellowick',
    note: 'Second try. Passage work was short last time.',
    began: 47,
    sitting: 'second',
    target: 345,
    diagnostic: { streams: [22, 12, 6, 2], passage: [10, 13, 7, 5], signals: [28, 13, 4, 0] },
    ratings: { 'course-offset': 'weak', 'passage-plan': 'weak', buoyage: 'strong' },
    windows: [
      [[1, 3, 5], '17:30', '20:00'],
      [[6], '09:00', '14:00'],
      [[7], '14:00', '17:00'],
    ],
    keeps: [0.8, 0.45],
    takes: 0.9,
    shelf: [
      {
        id: 'harbour-handbook',
        title: 'The harbour handbook',
        kind: 'book',
        chapters: [
          { title: 'Tides', pages: 150, topics: ['tidal-curves', 'tide-heights'] },
          { title: 'Courses', pages: 190, topics: ['course-offset', 'passage-plan'] },
          { title: 'Marks', pages: 130, topics: ['buoyage', 'lights'] },
        ],
        errors: 'page 31: the second curve is drawn an hour late',
      },
      { id: 'estuary-questions', title: 'Eight hundred estuary questions', kind: 'bank', questions: 800 },
    ],
    busy: [
      [3, '18:30', '19:30'],
      [6, '13:00', '14:00'],
    ],
  },
  {
    email: 'maudra@demo.example',
    name: 'Maudra Okonby',
    note: 'Steady. Worries about running out of time in signals.',
    began: 82,
    sitting: 'first',
    target: 315,
    diagnostic: { streams: [20, 14, 6, 2], passage: [13, 11, 6, 3], signals: [24, 13, 8, 6] },
    ratings: { eddies: 'weak', 'flag-hoists': 'not-covered', 'tide-heights': 'strong' },
    windows: [
      [[1, 2, 3, 4], '18:30', '20:30'],
      [[6], '09:00', '15:00'],
    ],
    keeps: [0.92, 0.95],
    takes: 1.05,
  },
]

/** Seeded numbers between 0 and 1, enough for a story. */
function story(seed: number): () => number {
  let state = seed
  return () => {
    state = (state * 48271) % 2147483647
    return state / 2147483647
  }
}

function countsOn(exam: ExamFormat, known: number[], random: () => number): Attempt['counts']['groups'] {
  return Object.fromEntries(
    exam.sections.flatMap((section) =>
      section.groups.map((group) => {
        const share = exam.topics.reduce(
          (sum, topic, at) => (topic.section === section.id ? sum + topic.share * known[at]! : sum),
          0,
        )
        const items = itemsOf(section)
        const knows = Math.max(
          0,
          Math.min(items, Math.round(items * share + (random() - 0.5) * Math.sqrt(items) * 1.2)),
        )
        const blank = Math.round((items - knows) * (blindGuess(group) > 0 ? 0 : 0.4))
        const guessed = items - knows - blank
        const lucky = Math.round(guessed * (0.2 + 0.15 * random()))
        return [
          group.id,
          {
            right: knows + lucky,
            wrong: guessed - lucky,
            blank,
            notReached: Math.round(blank * random() * 0.5),
          },
        ] as const
      }),
    ),
  )
}

/** The order in which a story puts things. */
const shuffled = <T>(things: T[], random: () => number): T[] =>
  things
    .map((thing) => ({ thing, place: random() }))
    .sort((a, b) => a.place - b.place)
    .map(({ thing }) => thing)

type Told = 'right' | 'lucky' | 'wrong' | 'blank'

/**
 * Item by item what comes to `counts`: answers, seconds and how sure the candidate was. Known items go fast, wrong ones
 * drag on, some far too long; what was not reached stands at the end of its section.
 */
function answersTo(
  exam: ExamFormat,
  counts: Attempt['counts']['groups'],
  random: () => number,
): ItemResponse[] {
  const responses: ItemResponse[] = []
  for (const section of exam.sections) {
    const own: (Omit<ItemResponse, 'item'> & { told: Told | 'unreached' })[] = []
    for (const group of section.groups) {
      const { right, wrong, blank, notReached } = counts[group.id]!
      const lucky = Math.round(wrong * 0.35)
      const told: Told[] = [
        ...Array.from({ length: right }, (_, at): Told => (at < lucky ? 'lucky' : 'right')),
        ...Array.from({ length: wrong }, (): Told => 'wrong'),
      ]
      const mixed = shuffled(told, random)
      // Passed-over items lie anywhere but at the end, where a blank was not reached.
      for (let at = 0; at < blank - notReached; at++)
        mixed.splice(Math.floor(random() * mixed.length), 0, 'blank')
      const topics = exam.topics.filter((topic) => topic.section === section.id)
      for (const one of [...mixed, ...Array.from({ length: notReached }, () => 'unreached' as const)]) {
        const key = 'ABCD'[Math.floor(random() * 4)]!
        const other = 'ABCD'.replace(key, '')[Math.floor(random() * 3)]!
        const mood = random()
        let share = random()
        const topic = topics.find((own) => (share -= own.share) < 0) ?? topics[0]!
        own.push({
          told: one,
          answer: one === 'right' || one === 'lucky' ? key : one === 'wrong' ? other : '',
          key,
          topic: topic.id,
          ...(one !== 'blank' &&
            one !== 'unreached' && {
              confidence:
                one === 'right'
                  ? mood < 0.88
                    ? 'sure'
                    : 'between two'
                  : mood < (one === 'lucky' ? 0.6 : 0.55)
                    ? 'between two'
                    : mood < (one === 'lucky' ? 1 : 0.88)
                      ? 'no idea'
                      : 'sure',
            }),
        })
      }
    }
    const drags = { right: 0.6, lucky: 1.2, wrong: 1.25, blank: 0.45, unreached: 0 }
    const weights = own.map(({ told }) => {
      const spread = 0.55 + 1.1 * random() * random()
      return drags[told] * spread * (told === 'wrong' && random() < 0.18 ? 2.6 : 1)
    })
    const sum = weights.reduce((a, b) => a + b, 0)
    const seconds = section.minutes * 60 * (own.some(({ told }) => told === 'unreached') ? 0.985 : 0.95)
    own.forEach(({ told, ...response }, at) =>
      responses.push({
        ...response,
        item: responses.length + 1,
        ...(told !== 'unreached' && { seconds: Math.max(3, Math.round((weights[at]! / sum) * seconds)) }),
      }),
    )
  }
  return responses
}

/** Some months of the same hours every week, as a calendar would give them. */
const commitmentsOf = (busy: NonNullable<Life['busy']>, began: string): Commitments => ({
  calendars: [
    {
      id: '5f0c9a00-0000-4000-8000-00000000ca1e',
      title: 'Rowing club',
      readAt: `${began}T08:00:00Z`,
      events: busy.length,
      busy: Array.from({ length: 200 }, (_, at) => dayNumber(began) + at).flatMap((day) =>
        busy
          .filter(([weekday]) => weekdayOf(day) === weekday)
          .map(([, from, to]) => ({ date: dateOf(day), from, to })),
      ),
    },
  ],
})

/** The record of the first day: what was said then, and the diagnostic. */
const firstDay = (life: Life, exam: ExamFormat, began: string): CandidateRecord =>
  recordFrom({
    exam,
    parts: {
      candidate: { name: life.name, note: life.note },
      availability: {
        windows: life.windows.flatMap(([weekdays, from, to]) =>
          weekdays.map((weekday) => ({ weekday, from, to })),
        ),
      },
      ratings: { topics: life.ratings },
      target: { scaled: life.target, sitting: life.sitting },
      pacing: { sections: { signals: { reserveMinutes: 3 }, streams: { reserveMinutes: 4 } } },
      examDay: { travelMinutes: 40 },
      ...(life.shelf && { materials: { items: life.shelf } }),
      ...(life.busy && { commitments: commitmentsOf(life.busy, began) }),
    },
    attempts: [
      {
        id: diagnosticId,
        kind: 'diagnostic',
        date: began,
        seen: false,
        counts: {
          groups: Object.fromEntries(
            Object.entries(life.diagnostic).map(([id, [right, wrong, blank, notReached = 0]]) => [
              `${id}-items`,
              { right, wrong, blank, notReached },
            ]),
          ),
          topics: {},
        },
      },
    ],
  })

/** What became of a session: tests are kept, and what was missed is tried again; what slips is the work between them, less of it lately or more. */
function livedThrough(session: PlanSession, life: Life, today: string, random: () => number): PlanSession {
  if (session.date >= today) return session
  const late = dayNumber(today) - dayNumber(session.date) <= 14
  const slips = random() > life.keeps[late ? 1 : 0] && session.kind !== 'test' && session.kind !== 'retest'
  if (slips) return { ...session, status: 'slipped' }
  return {
    ...session,
    status: 'done',
    minutesDone: Math.round((session.minutes * (0.85 + 0.25 * random())) / 5) * 5,
  }
}

const lessons: Partial<Record<Cause, string[]>> = {
  misread: ['underline "not" and "except" before I read the options', 'read the units in the question twice'],
  question: ['say in a word what is asked before I begin'],
  careless: ['write the signs of the corrections under each other', 'put the sum back in from the end'],
  overthought: ['leave the first answer unless I can say why it is wrong'],
  time: ['mark it and go on when its time is up'],
  content: ['look the table up first and the example after', 'draw the set and drift before I calculate'],
}
/** Weights of causes in a first review; care gets better from review to review, gaps stay. */
const weights: [Cause, number, number][] = [
  ['content', 40, 40],
  ['misread', 22, 9],
  ['careless', 16, 8],
  ['overthought', 8, 6],
  ['question', 6, 4],
  ['guess', 8, 8],
]

/** What reviews of earlier tests found: of every miss, tried again without a clock, a cause, and now and then a lesson. */
function reviewed({ id, date, items = [] }: Attempt, before: number, random: () => number): ReviewNote[] {
  const total = weights.reduce((sum, [, first, later]) => sum + (before ? later : first), 0)
  const last = items.reduce((found, { item, answer }) => (answer ? Math.max(found, item) : found), 0)
  return items
    .filter(({ answer, key }) => answer !== key)
    .map(({ item, answer, key = '' }) => {
      let draw = random() * total
      const drawn = weights.find(([, first, later]) => (draw -= before ? later : first) < 0)?.[0] ?? 'content'
      const cause: Cause = !answer && (item > last || random() < 0.3) ? 'time' : drawn
      const gap = cause === 'content' || cause === 'guess'
      const others = 'ABCD'.replace(key, '')
      const again = random() < (gap ? 0.2 : 0.85) ? key : others[Math.floor(random() * 3)]!
      const own = lessons[cause]
      const next = own && random() < 0.22 ? own[Math.floor(random() * own.length)] : undefined
      return {
        attempt: id,
        item,
        rework: { answer: again },
        cause,
        ...(next && { next }),
        seconds: Math.round(70 + 150 * random()),
        ...(date && { reviewedOn: dateOf(dayNumber(date) + 1) }),
      }
    })
}

/**
 * The retests that were done, each with what was still missed of its test then: most of it comes out right now, some of it by half. `record`
 * has what was sat and reviewed.
 */
function retestsOf(record: CandidateRecord, place: number): Attempt[] {
  const random = story(12001 + place * 101)
  const done: Attempt[] = []
  for (const session of record.plan!.sessions) {
    if (session.kind !== 'retest' || session.status !== 'done') continue
    const { date, start, minutesDone: minutes = session.minutes } = session
    const until = <T extends { date?: string }>(all: T[]) => all.filter((one) => (one.date ?? '') < date)
    const then = {
      ...record,
      attempts: until([...record.attempts, ...done]),
      review: record.review.filter(({ reviewedOn = '' }) => reviewedOn < date),
    }
    const { items, of } = againView(then, { date, minute: minuteOf(start) }, { session: session.id })
    if (!items.length || of === undefined) continue
    const responses = items.map(({ id, key, topic }, at): ItemResponse => {
      const right = random() < 0.75
      const others = 'ABCD'.replace(key, '')
      return {
        item: at + 1,
        order: at + 1,
        ...(id !== undefined && { id }),
        answer: right ? key : others[Math.floor(random() * others.length)]!,
        key,
        ...(topic !== undefined && { topic }),
        confidence: right && random() < 0.8 ? 'sure' : 'between two',
        seconds: Math.round(50 + 70 * random()),
      }
    })
    done.push({
      id: `5f0c9a00-0000-4000-8001-${String(place).padStart(4, '0')}${String(done.length + 1).padStart(8, '0')}`,
      kind: 'retest',
      date,
      start,
      minutes,
      of,
      session: session.id,
      seen: true,
      conditions: { untimed: true },
      counts: { groups: {}, topics: topicCounts(responses) },
      items: responses,
    })
  }
  return done
}

/** Hours that were studied of each topic, in the exam's order. */
function studied(exam: ExamFormat, sessions: PlanSession[]): number[] {
  const hours = new Map<string, number>()
  for (const session of sessions) {
    const topics = topicsOf(session)
    if (session.status === 'done')
      for (const id of topics)
        hours.set(id, (hours.get(id) ?? 0) + (session.minutesDone ?? session.minutes) / 60 / topics.length)
  }
  return exam.topics.map(({ id }) => hours.get(id) ?? 0)
}

function live(life: Life, exam: ExamFormat, today: string, place: number): ClimberFile {
  const random = story(7001 + place * 101)
  const began = dateOf(dayNumber(today) - life.began)
  const record = firstDay(life, exam, began)
  const start = assess(record, { date: began, minute: 6 * 60 })
  const { landscape } = start
  const plan = makePlan(planInput(start, start.sitting!, 1))
  const sessions: PlanSession[] = []
  const attempts: Attempt[] = [...record.attempts]
  for (const planned of plan.sessions) {
    const session = livedThrough(planned, life, today, random)
    sessions.push(session)
    if (session.kind !== 'test' || session.status !== 'done') continue
    const hours = studied(exam, sessions)
    const taken = landscape.topics.map((topic, at) => knownAfter(topic, hours[at]! * life.takes))
    const counts = countsOn(exam, taken, random)
    const number = String(attempts.length).padStart(8, '0')
    attempts.push({
      id: `5f0c9a00-0000-4000-8000-${String(place).padStart(4, '0')}${number}`,
      kind: 'practice',
      date: session.date,
      form: session.form,
      session: session.id,
      seen: session.seen,
      counts: { groups: counts, topics: {} },
      items: answersTo(exam, counts, story(9001 + place * 101 + attempts.length - 1)),
    })
  }
  const { candidate, availability, materials, ratings, target, settings, pacing, examDay, commitments } =
    record
  const tests = attempts.filter(({ kind }) => kind === 'practice')
  const review = tests
    .slice(0, -1)
    .flatMap((attempt, before) => reviewed(attempt, before, story(11001 + place * 101 + before)))
  const lived = { ...plan, sessions }
  const retests = retestsOf({ ...record, attempts, review, plan: lived }, place)
  return {
    climber: 2,
    exam,
    candidate,
    availability,
    ...(life.shelf && { materials }),
    ratings,
    target,
    settings,
    pacing,
    examDay,
    ...(life.busy && { commitments }),
    plan: lived,
    attempts: [...attempts, ...retests],
    ...(review.length && { review }),
    recall: recallOf(life, began, today, place),
  }
}

/** A deck as it was written and answered since the candidate began; the first evening it is all new. */
function recallOf({ began: ago }: Life, began: string, today: string, place: number): ClimberFile['recall'] {
  const idOf = (kind: string) => (n: number) =>
    `5f0c9a00-0000-4000-${kind}${String(place).padStart(3, '0')}-${String(n).padStart(12, '0')}`
  const cards = deck(idOf('9'), (at) => dateOf(dayNumber(began) + Math.min(ago, at >> 3)))
  const answers = recalled(cards, began, today, idOf('a'), story(13001 + place * 101))
  return { cards, ...(answers.length && { answers }) }
}

export const examFile = 'tidal-pilotage.exam.climber.json'

/** The demo's Climber files for `today`, with the account each belongs to. `read` reads a file of this folder. */
export async function scenario(
  today: string,
  read: (name: string) => Promise<ClimberFile>,
): Promise<{ email: string; file: ClimberFile }[]> {
  const format = await read(examFile)
  const first = format.exam.sittings[0]!.date
  const { exam } = aheadByWholeWeeks(format, first, today, 2)
  return lives.map((life, place) => ({ email: life.email, file: live(life, exam, today, place + 1) }))
}
