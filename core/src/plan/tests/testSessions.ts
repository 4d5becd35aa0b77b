import type { Form, ReviewSession, TestSession } from '@climber/contract'
import { dateOf, timeOf } from '../../time/day'
import type { TestRoom } from './blocks'
import type { FormUse } from './forms'
import type { PlacedTest } from './place'

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

/** The sessions of a placed test, one for each of its parts. */
export function testSessions(
  room: TestRoom,
  test: PlacedTest,
  { form, seen, resit }: FormUse,
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
  { reviews }: PlacedTest,
  last: TestSession,
  name: (key: string) => string,
): ReviewSession[] {
  return reviews.map(({ day, from, minutes }): ReviewSession => ({
    id: name(`review.${last.form ?? 'own'}`),
    date: dateOf(day),
    start: timeOf(from),
    minutes,
    kind: 'review',
    ...(last.form !== undefined && { form: last.form }),
    of: last.id,
    pinned: false,
    status: 'planned',
  }))
}
