import {
  assess,
  dayNumber,
  deedsOf,
  type Grade,
  gradePlan,
  makePlan,
  type Mark,
  planInput,
} from '@climber/core'
import { gradeInputOf } from '../core/test/graded'
import { alternatives, inOwnSlots, inSameSlots, minutesOf, seenOf } from './learners/alternatives'
import { anyone } from './learners/anyone'
import { kinds } from './learners/kinds'
import { firstMoment } from './learners/life'
import { scoreOf } from './learners/score'
import { error, mean } from './shared/means'
import { table } from './table'

/**
 * Climber's plans against plain alternatives at exactly equal minutes, on random candidates and simulated learners of five kinds, four of
 * which are not the model's. What counts is the share of the exam's marks on the day, of a hundred. PEOPLE sets how many; HALF is `tune`
 * (odd seeds) or `tell` (even ones, the default): settings are chosen on one half and reported on the other.
 */
const people = Number(process.env['PEOPLE'] ?? 100)
const odd = process.env['HALF'] === 'tune' ? 1 : 0
const only = process.env['KIND']
const rows: (string | number)[][] = []
const seenRows: (string | number)[][] = []
for (const [name, kind] of kinds) {
  if (only && !name.startsWith(only)) continue
  const ours: number[] = []
  const idle: number[] = []
  const behind = alternatives.map(() => ({ same: [] as number[], own: [] as number[] }))
  const found: Grade[][] = []
  for (let number = 1; number <= people; number++) {
    const some = anyone(kind, 2 * number - odd)
    const assessment = assess(some.record, firstMoment)
    const { sitting } = assessment
    if (!sitting) continue
    const input = planInput(assessment, sitting, 1)
    const made = makePlan(input)
    const { sessions } = made
    const exam = dayNumber(sitting.date)
    const deeds = deedsOf(some.exam, sessions)
    const seen = seenOf(assessment)
    const score = scoreOf(some, deeds, exam)
    ours.push(score)
    idle.push(scoreOf(some, [], exam))
    found.push(gradePlan(gradeInputOf(input), made))
    alternatives.forEach((other, at) => {
      behind[at]!.same.push(score - scoreOf(some, inSameSlots(other, deeds, seen), exam))
      const free = inOwnSlots(other, some.record, exam, minutesOf(deeds), seen)
      behind[at]!.own.push(score - scoreOf(some, free, exam))
    })
  }
  alternatives.forEach((other, at) => {
    const told = (list: number[]) => `${mean(list).toFixed(2)} ± ${error(list).toFixed(2)}`
    rows.push([
      name,
      other.name,
      at ? '' : mean(idle).toFixed(1),
      at ? '' : mean(ours).toFixed(2),
      told(behind[at]!.same),
      told(behind[at]!.own),
    ])
  })
  for (const of of new Set(found.flat().map((one) => one.of))) {
    const marks = found.flat().filter((one) => one.of === of)
    const count = (mark: Mark) => marks.filter((one) => one.mark === mark).length
    const worst = marks.find(({ mark }) => mark === 'poor') ?? marks.find(({ mark }) => mark === 'fair')
    seenRows.push([name, of, count('good'), count('fair'), count('poor'), worst?.found?.slice(0, 70) ?? ''])
  }
}
table(
  `Climber ahead, of a hundred marks, at equal minutes (${people} candidates of each kind)`,
  ['kind', 'against', 'no work', 'Climber', 'ahead in its slots', 'ahead of its own'],
  rows,
)
table('Plans as a tutor would look them over', ['kind', 'what', 'good', 'fair', 'poor', 'such as'], seenRows)
