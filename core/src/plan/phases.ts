import type { Phase, Settings } from '@climber/contract'
import { chosenWays } from '../sessions/ways'
import { dateOf, type DayNumber } from '../time/day'

export type LeadTime = 'sprint' | 'short' | 'standard' | 'two-phase' | 'long'

/** The lead time names the shape of the plan. Bounds in days, from docs/models.md, 4. */
export const leadTimeOf = (days: number): LeadTime =>
  days <= 9 ? 'sprint' : days <= 35 ? 'short' : days <= 70 ? 'standard' : days <= 119 ? 'two-phase' : 'long'

export interface Stage {
  name: string
  about: string
  /** Share of the days before the taper. */
  share: number
  /** Days from one test to the next. */
  testEvery: number
  /** The publisher's tests may be used here. */
  rehearsal: boolean
  /** One study session in so many is a mixed set. */
  mixedEvery: number
  /** Tests and their reviews may take at most this share of the time. */
  testShare: number
}

/**
 * Tests with their reviews may take so much of the time from the first day until then; the rest is for topics. The last rehearsal stands whatever
 * it takes. Measured: docs/measurements.md, Plans.
 */
const testShare = 0.15
/** So many times that where the rhythm was chosen: then review must keep up, and little else stands against it. */
const chosenShare = 2
const mostShare = 0.5

const learn = (share: number, testEvery: number, name = 'Learn'): Stage => ({
  name,
  about: 'Topics by what an hour on them yields, spaced; a test now and then to see where things stand.',
  share,
  testEvery,
  rehearsal: false,
  mixedEvery: 7,
  testShare,
})
const rehearse = (share: number, testEvery: number): Stage => ({
  name: 'Rehearse',
  about: "The publisher's tests under exam conditions, each reviewed; mixed sets keep every topic warm.",
  share,
  testEvery,
  rehearsal: true,
  mixedEvery: 2,
  testShare,
})

/**
 * Stages before the taper, by lead time. Rehearsing takes about the last two weeks of most plans, four of a year's: measured, more of it takes hours from
 * topics that learners of four kinds of five lose by (docs/measurements.md, Plans).
 */
export const stagesOf: Record<LeadTime, Stage[]> = {
  sprint: [
    {
      ...rehearse(1, 4),
      name: 'Sprint',
      about: 'The highest yields only, and one rehearsal.',
      mixedEvery: 3,
    },
  ],
  short: [learn(0.6, 7), rehearse(0.4, 5)],
  standard: [learn(0.8, 7), rehearse(0.2, 5)],
  'two-phase': [learn(0.85, 7), rehearse(0.15, 4)],
  long: [learn(0.55, 14, 'Foundation'), learn(0.35, 7, 'Build'), rehearse(0.1, 5)],
}

/** Days between tests where a school of its own asks for it; 0 for no tests. */
const rhythms: Record<string, { learn: number; rehearsal: number }> = {
  weekly: { learn: 7, rehearsal: 7 },
  'few, then often': { learn: 21, rehearsal: 3 },
  'near the end': { learn: 0, rehearsal: 5 },
}

/** Somebody has said how often tests are to come. */
export const isRhythmChosen = (settings: Settings): boolean =>
  settings.testEveryDays !== null ||
  settings.stages !== undefined ||
  chosenWays(settings).tests !== 'by lead time'

/** The stages that the settings ask for: their own, or the lead time's with the chosen rhythm of tests. */
export function stagesFor(lead: LeadTime, settings: Settings): Stage[] {
  const rhythm = rhythms[chosenWays(settings).tests]
  const own = settings.stages?.map(({ name, share, testEvery, rehearsal, mixedEvery }): Stage => ({
    name,
    share,
    testEvery,
    rehearsal,
    about: rehearsal
      ? "The publisher's tests under exam conditions, each reviewed."
      : `Topics by what an hour on them yields${testEvery ? `, a test every ${testEvery} days` : ', without tests'}.`,
    mixedEvery: mixedEvery ?? (rehearsal ? 2 : 7),
    testShare,
  }))
  const stages =
    own ??
    stagesOf[lead].map((stage) => ({
      ...stage,
      ...(rhythm && { testEvery: stage.rehearsal ? rhythm.rehearsal : rhythm.learn }),
    }))
  return isRhythmChosen(settings)
    ? stages.map((stage) => ({ ...stage, testShare: Math.min(mostShare, chosenShare * stage.testShare) }))
    : stages
}

export interface PlacedStage extends Stage {
  from: DayNumber
  /** First day after the stage. */
  to: DayNumber
}

/** Lays the stages over the days from `first` to the taper. Stages that would get no day are left out. */
export function layStages(from: Stage[], first: DayNumber, taper: DayNumber): PlacedStage[] {
  const days = Math.max(0, taper - first)
  const whole = from.reduce((sum, { share }) => sum + share, 0)
  let share = 0
  let begin = first
  return from.flatMap((stage) => {
    share += stage.share / whole
    const to = first + Math.round(days * share)
    const placed = { ...stage, from: begin, to }
    begin = to
    return placed.to > placed.from ? [placed] : []
  })
}

export function phasesOf(stages: PlacedStage[], taper: DayNumber, exam: DayNumber): Phase[] {
  const phases = stages.map(({ name, about, rehearsal, from, to }): Phase => ({
    name,
    about,
    ...(rehearsal && { rehearsal }),
    from: dateOf(from),
    to: dateOf(to - 1),
  }))
  if (taper < exam)
    phases.push({
      name: 'Taper',
      about: 'Light work at most; sleep, kit and the way there.',
      from: dateOf(taper),
      to: dateOf(exam - 1),
    })
  return [...phases, { name: 'Exam', about: 'The day.', from: dateOf(exam), to: dateOf(exam) }]
}
