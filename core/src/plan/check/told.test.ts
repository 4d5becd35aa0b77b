import type { PlanSession } from '@climber/contract'
import { gardenShelf, inputsOf } from '../../../test/arbitrary'
import { gardenRecord } from '../../../test/fixture'
import { toldInputOf } from '../../../test/graded'
import { falseWords, isStudy, makePlan, wordsFor } from '../../index'

const record = gardenRecord({ materials: gardenShelf })
const { plan: input } = inputsOf({ record, minute: 420, seed: 1 })
const plan = makePlan(input)
const { why } = wordsFor({ ...input, forms: input.exam.forms })
const told = toldInputOf(input)
const wrong = (words: (session: PlanSession) => string) => falseWords(told, plan, words)

describe('the words of a plan held against what is so', () => {
  it('are true as they stand', () => {
    expect(wrong(why)).toEqual([])
    expect(plan.sessions.filter(isStudy).length).toBeGreaterThan(20)
  })
  it.each<[string, RegExp, string]>([
    ['another share', /(\d+)% of the exam/, '77% of the exam'],
    ['another yield', /about [\d.]+ points/, 'about 9.9 points'],
    ['known better', /about \d+% of it (is )?known/, 'about 99% of it $1known'],
    ['another day', /was last met \d+ days?/, 'was last met 41 days'],
    [
      'another topic',
      /^No hour (brings|counts for) more just then than one on .+?:/,
      'No hour $1 more just then than one on Seals:',
    ],
    [
      'no topic yet, that was begun',
      /^.+ has its share of the hours:.*$/,
      'Seals is 10% of the exam and not begun yet: an hour brings about 1.0 points.',
    ],
    ['other minutes of review', /\d+ minutes of review/, '999 minutes of review'],
    ['another part of it', /^Part \d+ of/, 'Part 9 of'],
    ['another ratio', /: [\d.]+ times its own length/, ': 7 times its own length'],
    ['another distance', /, \d+ days? before the exam/, ', 3000 days before the exam'],
    ['another rhythm', /A test about every \d+ days/, 'A test about every 99 days'],
    ['other items', /\d+ items at the pace/, '777 items at the pace'],
    ['a figure that is none', /about \d+% of it/, 'about NaN% of it'],
  ])('%s is found', (_, pattern, instead) => {
    const spoiled = plan.sessions.filter((session) => pattern.test(why(session)))
    expect(spoiled.length).toBeGreaterThan(0)
    const [first] = spoiled
    const found = wrong((session) =>
      session === first ? why(session).replace(pattern, instead) : why(session),
    )
    expect(found).toHaveLength(1)
    expect(found[0]).toContain(first!.id)
  })
})
