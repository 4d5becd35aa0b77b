import type {
  ExamFormat,
  Form,
  PlanSession,
  RemedyAim,
  SessionRemedy,
  Settings,
  Sitting,
  StudyReason,
  StudySession,
  Unplaced,
} from '@climber/contract'
import { dayNumber } from '../time/day'
import { labelsFor } from './labels'
import { chosenWays } from './ways'

/** What the words of a plan are made with. */
export interface WordContext {
  exam: Pick<ExamFormat, 'topics' | 'sections'>
  /** The exam's forms, and the tests of the shelf. */
  forms: Form[]
  settings: Pick<Settings, 'schools'>
  sitting?: Pick<Sitting, 'date' | 'start' | 'registerBy' | 'fee'>
  travelMinutes?: number
}
type Said = PlanSession | Unplaced

export interface Words {
  /** What a session is called. */
  title: (session: Said) => string
  /** What it may be called beside its kind, the longest first, down to four letters. */
  labels: (session: Said) => string[]
  /** Why it stands where it does, in one or two sentences with their figures. */
  why: (session: Said) => string
}

const percent = (share: number) => `${Math.round(share * 100)}%`
const days = (n: number) => (n === 1 ? '1 day' : `${n} days`)
const closing = (left: number) => `Registration closes ${left > 0 ? `${days(left)} later` : 'that day'}`
const points = (value: number) => value.toFixed(1)
const minutesWords = (seconds: number) => `${Math.round(seconds / 60)} min`

const reviewScope = {
  'misses, doubtful and lucky': 'Missed, doubtful and lucky items',
  misses: 'The missed items',
  'every question': 'Every question',
} as const

const studyTitles = { learn: 'Learn', drill: 'Drill', mixed: 'Mixed set' } as const
const remedyTitles: Record<RemedyAim, string> = {
  again: 'Again',
  reading: 'Slow-reading set',
  'first instinct': 'First-instinct set',
  checking: 'Checking set',
  pace: 'Pace drill',
}
const remedyWays: Record<RemedyAim, string> = {
  again: 'Read the chapter again and do the items once more.',
  reading: 'Underline what is asked before looking at the options; no clock.',
  'first instinct': 'Answer, mark the doubt, and do not go back.',
  checking: 'Work each through twice, the second time from the end.',
  pace: 'To the budget of each item, leaving when it is up.',
}
const stageWords = { first: ', first stage', second: ', second stages' } as const

const lightTitles = {
  'pace card': 'Read the pace card and your own notes',
  'last days': 'Light work: own notes and cards',
} as const
const lightReasons = {
  cards: 'A stretch that takes no hard work: cards and notes of what fades fastest.',
  warm: 'A day with nothing else on it: a quarter of an hour keeps things warm.',
  'pace card':
    'Half an hour to bring the checkpoints to mind. New material this late costs more sleep than it earns marks.',
  'last days': 'Light work to the eve, as chosen: nothing new, half an hour at most.',
} as const

/** What the words look up: titles of topics and forms, and who made a form. */
function namesIn({ exam, forms }: WordContext) {
  const topics = new Map(exam.topics.map(({ id, title }) => [id, title]))
  const byId = new Map(forms.map((form) => [form.id, form]))
  const sections = new Map(exam.sections.map(({ id, title }) => [id, title]))
  return {
    sectionTitles: (ids: string[]) => ids.map((id) => sections.get(id) ?? id).join(', '),
    topicTitle: (id: string) => topics.get(id) ?? id,
    formTitle: (id: string | undefined) => (id === undefined ? 'a test' : (byId.get(id)?.title ?? id)),
    isPublisher: (id: string | undefined) => byId.get(id ?? '')?.source === 'publisher',
  }
}
type Names = ReturnType<typeof namesIn>

function titleOf(
  session: Said,
  { topicTitle, formTitle, sectionTitles }: Names,
  { sitting }: WordContext,
): string {
  if (session.label) return session.label
  switch (session.kind) {
    case 'learn':
    case 'drill':
    case 'mixed': {
      const names = session.topics.map(topicTitle)
      if (session.timed)
        return `${session.timed.items} items in ${minutesWords(session.timed.seconds)}: ${names.join(', ')}`
      if (session.remedy) return `${remedyTitles[session.remedy.aim]}: ${names.join(', ')}`
      const stage = session.stage ? stageWords[session.stage] : ''
      const named = session.kind === 'mixed' ? `: ${names.join(', ')}` : ` ${names[0] ?? ''}`
      return `${studyTitles[session.kind]}${named}${stage}`.trim()
    }
    case 'test':
      if (session.sections)
        return `${sectionTitles(session.sections)} under the clock${session.form === undefined ? '' : `: ${formTitle(session.form)}`}`
      return `${formTitle(session.form)}${session.split ? `, split: part ${session.split.number} of ${session.split.of}` : ''}`
    case 'review':
      return `Review ${formTitle(session.form)}`
    case 'retest':
      return `Retest: what ${formTitle(session.form)} showed`
    case 'light': {
      if (session.purpose === 'pace card' || session.purpose === 'last days')
        return lightTitles[session.purpose]
      const names = session.topics.map(topicTitle)
      return names.length ? `Cards and notes: ${names.join(', ')}` : 'Leaf through the materials'
    }
    case 'errand':
      switch (session.purpose) {
        case 'register':
          return sitting?.registerBy
            ? `Register for the sitting, by ${sitting.registerBy}`
            : 'Register for the sitting'
        case 'journey':
          return 'Book the journey to the exam, and a bed if one is needed'
        case 'visit':
          return 'Go and see the place of the exam'
        case 'kit':
          return 'Pack the kit and check the way there'
        case undefined:
          return 'Errand'
      }
  }
}

function whyRemedy({ aim, misses, marks }: SessionRemedy): string {
  const cost = marks > 0 ? `, and cost ${points(marks)} marks` : ''
  return `A review found this the cause ${misses === 1 ? 'of one miss' : `of ${misses} misses`}${cost}. ${remedyWays[aim]}`
}

/** So much of what was new gone, a touch is for keeping it. */
const fading = 0.8
/** Something else is worth telling of where an hour of it brings so many times as much. */
const muchMore = 1.5

type Study = StudySession | Extract<Unplaced, { kind: StudySession['kind'] }>

/** The fact that decided for a topic of its own, in one sentence. */
function whyTopic(
  lead: string,
  { share = 0, known = 0, daysSince, kept = 1, instead, yield: gain = 0, by }: StudyReason,
): string {
  const [brings, towards] =
    by === 'odds' ? ['counts for', ' towards the target and every cut'] : ['brings', '']
  const worth = `an hour ${brings} about ${points(gain)} points${towards}`
  const size = `${percent(share)} of the exam`
  if (daysSince === undefined) return `${lead} is ${size} and not begun yet: ${worth}.`
  if (!instead || gain >= instead.yield)
    return `No hour ${brings} more just then than one on ${lead}: about ${points(gain)} points${towards}, with ${size} and about ${percent(known)} of it known.`
  if (kept < fading && daysSince > 0)
    return `${lead} was last met ${days(daysSince)} before, and about ${percent(1 - kept)} of what was new is gone by then: a touch brings it back.`
  return `${lead} has its share of the hours: it is ${size}, about ${percent(known)} of it is known by then, and ${worth}.`
}

/** What would bring much more in its place, and why it does not stand there; nothing where that is no matter. */
function whatElse({ yield: gain = 0, instead, by }: StudyReason, { topicTitle }: Names): string {
  if (!instead || instead.yield < muchMore * gain) return ''
  const more = `${topicTitle(instead.topic)} would ${by === 'odds' ? 'count for' : 'bring'} about ${points(instead.yield)}`
  const { sessions } = instead
  return sessions
    ? ` ${more} and has ${sessions === 1 ? 'a session' : `${sessions} sessions`} of its own.`
    : ` ${more}.`
}

function whyStudy({ kind, topics, reason, remedy, timed, rest }: Study, names: Names): string {
  if (rest) return `The rest of what was begun on ${rest.on}.`
  if (remedy) return whyRemedy(remedy)
  if (timed)
    return `The timed work of this week: ${timed.items} items at the pace of the exam, then a look at each.`
  if (!reason || reason.share === undefined) return ''
  const lead = names.topicTitle(topics[0] ?? '')
  if (kind !== 'mixed') return whyTopic(lead, reason) + whatElse(reason, names)
  const { daysSince, kept = 1 } = reason
  return daysSince
    ? `What fades fastest of what was met: ${lead} was last met ${days(daysSince)} before, and about ${percent(kept)} of what was new is still at hand.`
    : 'What fades fastest of what was met, taken together.'
}

function whyTest(
  session: Extract<Said, { kind: 'test' }>,
  { isPublisher }: Names,
  { sitting }: WordContext,
): string {
  const kindOfTest = isPublisher(session.form) ? "one of the publisher's" : "another maker's"
  const left = sitting && 'date' in session ? dayNumber(sitting.date) - dayNumber(session.date) : undefined
  switch (session.purpose) {
    case 'baseline':
      return 'The baseline: a plan needs to know where you stand.'
    case 'resit':
      return 'The first test once more, to see how far you have come; its score stays out of the forecast.'
    case 'seen':
      return 'You have seen this form before, so its score stays out of the forecast.'
    case 'rehearsal':
      return `A rehearsal with ${kindOfTest} tests${left === undefined ? '' : `, ${days(left)} before the exam`}.`
    case 'rhythm':
      return session.everyDays === undefined
        ? `A whole test shows what the work is worth; this is ${kindOfTest}.`
        : `A test about every ${session.everyDays} days shows what the work is worth; this is ${kindOfTest}.`
    case 'section':
      return 'The timed work of this week: one section at its exam length, with a review of its own.'
    case 'tray':
      return 'A test that found no place of its own. Placed by hand, it wants its review too.'
    case undefined:
      return ''
  }
}

/** Why a test does not stand whole at the exam's own time of day. */
function whyThen(session: Extract<Said, { kind: 'test' }>, { sitting }: WordContext): string {
  const start = 'start' in session ? session.start : ''
  switch (session.hour) {
    case 'late':
      return `It starts at ${start}: when it was placed, no free time that day held the whole test${sitting ? ` from ${sitting.start}, when the exam starts` : ''}.`
    case 'split':
      return `Split over ${session.split && session.split.of > 2 ? session.split.of : 'two'} days: no free time near here holds the whole ${session.split?.wholeMinutes ?? session.minutes} minutes in one block.`
    case 'moved':
      return `It starts at ${start}, where there was room when it was moved.`
    case undefined:
      return ''
  }
}

function whyReview(
  { piece, wholeMinutes, ratio, rest }: Extract<Said, { kind: 'review' }>,
  { settings }: WordContext,
): string {
  if (rest) return `The rest of what was begun on ${rest.on}.`
  const { review, mistakes } = chosenWays(settings)
  const whole = piece && piece.of > 1 ? `Part ${piece.number} of ${piece.of} of the` : 'The'
  const part =
    piece && wholeMinutes !== undefined && ratio !== undefined
      ? `${whole} ${wholeMinutes} minutes of review that this test is worth: ${ratio} times its own length. `
      : ''
  return `${part}${reviewScope[review]}; rework before you look.${mistakes === 'full note' ? ' Write a full note on each miss.' : ''}`
}

function whyErrand(
  session: Extract<Said, { kind: 'errand' }>,
  { sitting, travelMinutes }: WordContext,
): string {
  switch (session.purpose) {
    case 'register': {
      const { registerBy, fee } = sitting ?? {}
      const closes =
        registerBy && 'date' in session
          ? closing(dayNumber(registerBy) - dayNumber(session.date))
          : 'Registration closes some time'
      return `${closes}${fee ? `; the fee is ${fee.amount} ${fee.currency}` : ''}. Without it there is no exam.`
    }
    case 'journey':
      return `The way there takes ${travelMinutes ?? 120} minutes; booked early it is one thing less to think of.`
    case 'visit':
      return `${session.minutes} minutes there and back: a way that was walked once holds no surprises on the day.`
    case 'kit':
      return 'Packed the day before, nothing is looked for on the morning.'
    case undefined:
      return ''
  }
}

function reasonFor(session: Said, names: Names, context: WordContext): string {
  switch (session.kind) {
    case 'learn':
    case 'drill':
    case 'mixed':
      return session.said ?? whyStudy(session, names)
    case 'test':
      return [session.said ?? whyTest(session, names, context), whyThen(session, context)]
        .filter(Boolean)
        .join(' ')
    case 'review':
      return session.said ?? whyReview(session, context)
    case 'retest':
      return (
        session.said ??
        `${session.daysSince === undefined ? 'Some days' : days(session.daysSince)} after its review, the items that were missed once more: what is right now has stayed.`
      )
    case 'light':
      return session.said ?? lightReasons[session.purpose ?? 'cards']
    case 'errand':
      return session.said ?? whyErrand(session, context)
  }
}

/** The words of a plan: titles and reasons, made of the facts of each session. */
export function wordsFor(context: WordContext): Words {
  const names = namesIn(context)
  return {
    title: (session) => titleOf(session, names, context).slice(0, 300),
    labels: labelsFor(context.exam, context.forms),
    why: (session) => reasonFor(session, names, context),
  }
}
