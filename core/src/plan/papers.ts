import type {
  ExamFormat,
  Form,
  Phase,
  Plan,
  PlanNotice,
  PlanSession,
  StudySession,
  Unplaced,
} from '@climber/contract'
import { formsTaken, formsWithin } from '../attempts/sat'
import { itemsOf } from '../scoring/raw'
import { byTime, isActive, isStudy, isTest } from '../sessions/session'
import { rehearsalsOf } from './board/board'
import type { PlanInput } from './input'
import { keptForms } from './tests/forms'
import { testMinutes } from './tests/lengths'

/** So many unseen papers stay whole in any case, for a test more than planned: of those kept for the end where any is free. */
const heldBack = 1
/** A session takes no fewer questions from a paper. */
const fewest = 4
/** Minutes of a session for each question, a look at it afterwards included. */
const minutesEach = 2
/** Of the papers that nothing uses, so many are at hand in the tray. */
const mostInTray = 3
const longestText = 300

/** About how many questions of a paper are on each topic. */
function questionsByTopic({ sections, topics }: ExamFormat): Map<string, number> {
  const items = new Map(sections.map((section) => [section.id, itemsOf(section)]))
  return new Map(topics.map(({ id, section, share }) => [id, share * (items.get(section) ?? 0)]))
}

/** Forms of the exam that no test is sat on, as the plan stands; in the exam's order. */
function withoutTest({ exam, sat, lived }: PlanInput, sessions: PlanSession[]): Form[] {
  const tested = new Set(
    [...sat, ...formsWithin([...lived, ...sessions.filter(isActive)].filter(isTest))].map(({ form }) => form),
  )
  return exam.forms.filter(({ id }) => !tested.has(id))
}

/** Whether a session may be given questions of a paper, or others than it had: to come, asked for by no review, no rest of another. */
const isGiven = (session: PlanSession, today: string): session is StudySession =>
  isStudy(session) &&
  session.status === 'planned' &&
  session.date >= today &&
  !session.remedy &&
  !session.rest

/** Whether questions of a paper suit it: on what was met, with nothing of the shelf. A set under the clock has them rather than those of a bank. */
const takesQuestions = ({ kind, material, timed }: StudySession): boolean =>
  kind !== 'learn' && (!material || material.form !== undefined || timed !== undefined)

/** Papers whose questions are worked topic by topic, and which of them are spoken for. */
class LoosePapers {
  private readonly taken = new Map<string, Set<string>>()
  private readonly questions: Map<string, number>

  constructor(
    exam: ExamFormat,
    private readonly open: Form[],
    private readonly kept: Set<string>,
    sessions: PlanSession[],
  ) {
    this.questions = questionsByTopic(exam)
    for (const session of sessions) {
      const form = isStudy(session) && session.material?.form
      if (form) this.take(form, session.topics)
    }
  }

  private take(form: string, topics: string[]): void {
    const own = this.taken.get(form) ?? new Set()
    for (const topic of topics) own.add(topic)
    this.taken.set(form, own)
  }
  /** About how many questions of a paper are on some topics; none where one of these was had from it. */
  private on(form: string, topics: string[]): number {
    if (topics.some((topic) => this.taken.get(form)?.has(topic))) return 0
    return Math.floor(topics.reduce((sum, topic) => sum + (this.questions.get(topic) ?? 0), 0))
  }

  /** Papers in the order in which they are taken up: those begun first, and never the last that is whole; while rehearsing those kept for it before others. */
  private inTurn(rehearsing: boolean): Form[] {
    const isBegun = ({ id }: Form) => this.taken.has(id)
    const isKept = ({ id }: Form) => this.kept.has(id)
    const last = (a: Form, b: Form) => Number(isKept(a)) - Number(isKept(b))
    const whole = this.open.filter((form) => !isBegun(form)).sort(last)
    const all = [...this.open.filter(isBegun), ...whole.slice(0, Math.max(0, whole.length - heldBack))]
    return [...(rehearsing ? all.filter(isKept) : []), ...all.filter((form) => !isKept(form))]
  }

  /** The session with questions of a paper, of that it had where it still can; as it was where none has enough. */
  give(session: StudySession, rehearsing: boolean): StudySession {
    const { topics, timed, material, minutes } = session
    const had = this.open.filter(({ id }) => id === material?.form && (rehearsing || !this.kept.has(id)))
    const needs = timed?.items ?? fewest
    const { material: before, ...bare } = session
    if (!takesQuestions(session)) return bare
    for (const { id, title } of [...had, ...this.inTurn(rehearsing)]) {
      const there = this.on(id, topics)
      if (there < needs) continue
      this.take(id, topics)
      const most = timed?.items ?? Math.floor(minutes / minutesEach)
      const text = `${there > most ? most : `About ${there}`} questions from ${title}`
      return { ...bare, material: { id, form: id, text: text.slice(0, longestText) } }
    }
    return before?.form === undefined ? session : bare
  }
}

/**
 * Papers that no test is sat on serve as questions: each on a topic once, for sets under the clock first, then for mixed sets and drills that
 * nothing of the shelf is there for; those kept for the end only while rehearsing. A paper that is begun goes on before the next one; one
 * stays whole.
 */
export function withPapers(input: PlanInput, sessions: PlanSession[], phases: Phase[]): PlanSession[] {
  const kept = keptForms(input)
  const open = withoutTest(input, sessions)
  const rehearsals = rehearsalsOf(phases)
  const rehearsing = ({ date }: PlanSession) => rehearsals.some(({ from, to }) => from <= date && date <= to)
  const own = sessions
    .filter((session) => isGiven(session, input.today))
    .filter((session) => takesQuestions(session) || session.material?.form !== undefined)
  if (!own.some(({ material }) => material?.form !== undefined) && open.length <= heldBack) return sessions
  const fixed = sessions.filter((session) => isActive(session) && !own.includes(session as StudySession))
  const papers = new LoosePapers(input.exam, open, kept, [...input.lived, ...fixed])
  const rank = ({ material, timed, kind }: StudySession) =>
    material?.form !== undefined ? 0 : timed ? 1 : kind === 'mixed' ? 2 : 3
  const given = new Map(
    own
      .sort((a, b) => rank(a) - rank(b) || byTime(a, b))
      .map((session): [string, PlanSession] => [session.id, papers.give(session, rehearsing(session))]),
  )
  return sessions.map((session) => given.get(session.id) ?? session)
}

const trayTest = (input: PlanInput, form: Form): Unplaced => ({
  id: `test.${form.id}.tray`,
  minutes: testMinutes(input.exam.sections, input.settings.timeFactor),
  kind: 'test',
  form: form.id,
  seen: false,
  purpose: 'tray',
  pinned: false,
  status: 'planned',
})

/** Said where more than those held back stay whole. */
const unusedNotice = (left: Form[]): PlanNotice[] =>
  left.length > heldBack
    ? [
        {
          code: 'forms-unused',
          message: `${left.length} unseen forms are not used: with their reviews they would take more of the time than tests are to have here. More free time, or a shorter review, makes room; the first of them wait in the tray.`,
        },
      ]
    : []

/** The unseen papers that a plan leaves untouched: what is said of them, and the first of them for the tray. */
export function papersLeft(input: PlanInput, sessions: PlanSession[]): Pick<Plan, 'notices' | 'unplaced'> {
  const begun = new Set(formsTaken([...input.lived, ...sessions.filter(isActive)]).map(({ form }) => form))
  const kept = keptForms(input)
  // Those kept for the end come last.
  const left = withoutTest(input, sessions)
    .filter(({ id }) => !begun.has(id))
    .sort((a, b) => Number(kept.has(a.id)) - Number(kept.has(b.id)))
  return {
    notices: unusedNotice(left),
    ...(left.length && { unplaced: left.slice(0, mostInTray).map((form) => trayTest(input, form)) }),
  }
}
