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
import { formsWithin } from '../attempts/sat'
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

  /** Papers of which nothing is taken, those kept for the end last. */
  whole(): Form[] {
    const isKept = ({ id }: Form) => Number(this.kept.has(id))
    return this.open.filter(({ id }) => !this.taken.has(id)).sort((a, b) => isKept(a) - isKept(b))
  }
  /** Papers in the order in which they are taken up: those begun first, and never the last that is whole; while rehearsing those kept for it before others. */
  private inTurn(rehearsing: boolean): Form[] {
    const isKept = ({ id }: Form) => this.kept.has(id)
    const whole = this.whole()
    const all = [
      ...this.open.filter(({ id }) => this.taken.has(id)),
      ...whole.slice(0, Math.max(0, whole.length - heldBack)),
    ]
    return [...(rehearsing ? all.filter(isKept) : []), ...all.filter((form) => !isKept(form))]
  }

  /** The session with questions of a paper, of that it had where it still can; as it was where none has enough. */
  give(session: StudySession, rehearsing: boolean): StudySession {
    const { material, ...bare } = session
    if (!takesQuestions(session)) return bare
    const { topics, timed, minutes } = session
    const had = this.open.filter(({ id }) => id === material?.form && (rehearsing || !this.kept.has(id)))
    for (const { id, title } of [...had, ...this.inTurn(rehearsing)]) {
      const there = this.on(id, topics)
      if (there < (timed?.items ?? fewest)) continue
      this.take(id, topics)
      const most = timed?.items ?? Math.floor(minutes / minutesEach)
      const text = `${there > most ? most : `About ${there}`} questions from ${title}`
      return { ...bare, material: { id, form: id, text: text.slice(0, longestText) } }
    }
    return material?.form === undefined ? session : bare
  }
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

/** Sessions with what they take from papers, what is said of those left untouched, and the first of these for the tray. */
type Papered = Pick<Plan, 'sessions' | 'notices' | 'unplaced'>

/**
 * Papers that no test is sat on serve as questions: each on a topic once, for sets under the clock first, then for mixed sets and drills that
 * nothing of the shelf is there for; those kept for the end only while rehearsing. A paper that is begun goes on before the next one; one
 * stays whole.
 */
export function withPapers(input: PlanInput, sessions: PlanSession[], phases: Phase[]): Papered {
  const open = withoutTest(input, sessions)
  const rehearsals = rehearsalsOf(phases)
  const rehearsing = ({ date }: PlanSession) => rehearsals.some(({ from, to }) => from <= date && date <= to)
  const hasPaper = ({ material }: StudySession) => material?.form !== undefined
  const own = sessions
    .filter((session) => isGiven(session, input.today))
    .filter((session) => takesQuestions(session) || hasPaper(session))
  const fixed = new Set(sessions.filter(isActive))
  for (const session of own) fixed.delete(session)
  const papers = new LoosePapers(input.exam, open, keptForms(input), [...input.lived, ...fixed])
  const given = new Map<string, PlanSession>()
  const rank = (session: StudySession) =>
    hasPaper(session) ? 0 : session.timed ? 1 : session.kind === 'mixed' ? 2 : 3
  if (open.length > heldBack || own.some(hasPaper))
    for (const session of own.sort((a, b) => rank(a) - rank(b) || byTime(a, b)))
      given.set(session.id, papers.give(session, rehearsing(session)))
  const left = papers.whole()
  return {
    sessions: sessions.map((session) => given.get(session.id) ?? session),
    notices: unusedNotice(left),
    ...(left.length && { unplaced: left.slice(0, mostInTray).map((form) => trayTest(input, form)) }),
  }
}
