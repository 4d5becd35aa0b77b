import type { Form, ReviewSession, TestSession } from '@climber/contract'
import { dateOf, timeOf } from '../../time/day'
import type { PlacedStage } from '../phases'
import type { TestRoom } from './blocks'
import type { FormUse } from './forms'
import { firstDay, isWholeTest, type PlacedTest } from './place'

const purposeOf = (test: PlacedTest, { seen, resit }: FormUse): TestSession['purpose'] => {
  if (test.sections) return 'section'
  if (test.baseline) return 'baseline'
  if (resit) return 'resit'
  if (seen) return 'seen'
  return test.stage.rehearsal || test.rehearsalAt || test.final ? 'rehearsal' : 'rhythm'
}

/** Under what a test is numbered. */
const keyOf = ({ sections }: PlacedTest, form: Form | undefined): string =>
  sections ? `test.${form?.id ?? 'own'}.${sections[0]?.id}` : `test.${form?.id}`

/** About how many days lie between the whole tests of a stage, the one before it counted; undefined where it has but one. */
export function rhythmIn(stage: PlacedStage, placed: PlacedTest[]): number | undefined {
  const days = placed.filter(isWholeTest).map(firstDay)
  const within = days.filter((day, at) => {
    const [own, next] = [day, days[at + 1]]
    return (
      (own >= stage.from && own < stage.to) || (next !== undefined && next >= stage.from && next < stage.to)
    )
  })
  const [first] = within
  const last = within[within.length - 1]
  return first === undefined || last === undefined || within.length < 2
    ? undefined
    : Math.round((last - first) / (within.length - 1))
}

/** The sessions of a placed test, one for each of its parts. */
export function testSessions(
  room: TestRoom,
  test: PlacedTest,
  { form, seen, resit }: FormUse,
  everyDays: number | undefined,
  name: (key: string) => string,
): TestSession[] {
  const { blocks, sections, hour } = test
  const ids = blocks.map(() => name(keyOf(test, form)))
  const purpose = purposeOf(test, { seen, resit })
  return blocks.map((block, part): TestSession => ({
    id: ids[part] ?? '',
    date: dateOf(block.day),
    start: timeOf(block.from),
    minutes: block.minutes,
    kind: 'test',
    ...(form && { form: form.id }),
    seen,
    purpose,
    ...(purpose === 'rhythm' && everyDays !== undefined && { everyDays }),
    ...(hour && { hour }),
    ...(sections && { sections: sections.map(({ id }) => id) }),
    ...(blocks.length > 1 && {
      split: {
        number: part + 1,
        of: blocks.length,
        other: ids[(part + 1) % blocks.length] ?? '',
        sections: block.sections ?? [],
        wholeMinutes: room.full,
      },
    }),
    pinned: false,
    status: 'planned',
  }))
}

export function reviewSessions(
  { reviews, reviewMinutes, blocks }: PlacedTest,
  last: TestSession,
  name: (key: string) => string,
): ReviewSession[] {
  const tested = blocks.reduce((sum, { minutes }) => sum + minutes, 0)
  return reviews.map(({ day, from, minutes }, at): ReviewSession => ({
    id: name(`review.${last.form ?? 'own'}`),
    date: dateOf(day),
    start: timeOf(from),
    minutes,
    kind: 'review',
    ...(last.form !== undefined && { form: last.form }),
    of: last.id,
    piece: { number: at + 1, of: reviews.length },
    wholeMinutes: reviewMinutes,
    ratio: Math.round((100 * reviewMinutes) / tested) / 100,
    pinned: false,
    status: 'planned',
  }))
}
