import type { RoomSetup } from '@climber/contract'
import { asSat } from '../exam/accommodation'
import { markSeconds } from '../pacing/leave'
import { PacingProblem } from '../pacing/section'
import type { PartPace } from '../room/rail'
import { partsOf } from '../room/parts'
import { itemsOf } from '../scoring/raw'
import { makerOf } from '../learner/answers'
import { assess, type Assessment, expectedOf, scoresOn } from './assessment'
import type { CandidateRecord, Moment } from './moment'
import { pacedSection, plentyMu } from './pacing'

/** A score to expect, eight times in ten between `low` and `high`. */
export interface Expected {
  mean: number
  low: number
  high: number
}
/** What is known before a test is sat: what it will bring, and the pace of each part. */
export interface RoomView {
  /** Of the whole exam; undefined where only some of it is sat, or nothing was measured. */
  composite?: Expected
  sections: ({ section: string } & Expected)[]
  /** By part; an adaptive section has one for each of its second stages. */
  paces: Record<string, PartPace[]>
}

/** Every item of a part alike. */
const evenly = (items: number, seconds: number): PartPace => ({
  budgets: Array.from({ length: items }, () => seconds / Math.max(1, items)),
  leave: Array.from({ length: items }, () => null),
  checkpoints: [],
})

/** Paces of a section whose time, as granted, is `seconds`. */
export function pacesOf(assessment: Assessment, id: string, seconds: number): PartPace[] {
  const { exam } = asSat(assessment.record.exam, assessment.record.settings)
  const section = exam.sections.find((one) => one.id === id)!
  try {
    const paced = pacedSection(assessment, id)
    return paced.paces.map((pace, way) => {
      const share = seconds / pace.grantedSeconds
      const found = evenly(pace.items.length, seconds)
      pace.items.forEach(({ number, seconds: own, reading }, place) => {
        const leg = section.stages && place >= pace.firstStage! ? way + 1 : 0
        const { mu, rules } = paced.times.plans[leg]!
        const kind = paced.told[way]!.of[place]! + paced.firstOf[way]!
        found.budgets[number - 1] = (own + reading) * share
        found.leave[number - 1] =
          mu > plentyMu ? (Math.max(rules[kind]!.seconds, markSeconds) + reading) * share : null
      })
      found.checkpoints = pace.checkpoints.map(({ item, at }) => ({ item, seconds: at * share }))
      return { ...found, ...(section.stages && { stage: section.stages[way]!.id }) }
    })
  } catch (problem) {
    if (!(problem instanceof PacingProblem)) throw problem
    return [evenly(itemsOf(section), seconds)]
  }
}

const plainly = ({ mean, low, high }: Expected): Expected => ({ mean, low, high })

/** What to expect of a test as it is set up, today, and the pace of its parts. */
export function roomView(
  record: CandidateRecord,
  now: Moment,
  setup: Pick<RoomSetup, 'parts' | 'set' | 'whole' | 'form' | 'id'>,
): RoomView {
  const assessment = assess(record, now)
  const { exam } = record
  const scores = scoresOn(assessment, assessment.today)
  const { learner } = assessment
  const paces: Record<string, PartPace[]> = {}
  const sections: RoomView['sections'] = []
  for (const { id, seconds } of setup.parts) {
    const at = exam.sections.findIndex((section) => section.id === id)
    if (at < 0) {
      const items = partsOf(exam, setup)[0]?.items(1).length ?? 1
      paces[id] = [evenly(items, seconds)]
      continue
    }
    paces[id] = pacesOf(assessment, id, seconds)
    if (learner.measured) sections.push({ section: id, ...plainly(expectedOf(assessment, scores, at)) })
  }
  if (!setup.whole || !learner.measured) return { sections, paces }
  const maker = makerOf(exam, { form: setup.form, kind: 'practice' }, record.materials)
  const sat = scoresOn(assessment, assessment.today, 'kept', maker)
  return { composite: plainly(expectedOf(assessment, sat)), sections, paces }
}
