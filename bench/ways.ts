import { type Grade, gradePlan, makePlan } from '@climber/core'
import { inputsOf, today } from '../core/test/arbitrary'
import { gradeInputOf } from '../core/test/graded'
import { readWay, recordOfWay, secondInputs, wayFiles } from '../core/test/wayRecords'
import { table } from './table'

/** The twenty-one ways to prepare, each on two inputs, looked over as a tutor would: how many grades of each plan are good, and what is fair or poor. */
const looked = (record: ReturnType<typeof secondInputs>): Grade[] => {
  const { plan: input } = inputsOf({ record, minute: 300, seed: 1 }, today)
  return gradePlan(gradeInputOf(input), makePlan(input))
}
const words = (grades: Grade[]): string[] => {
  const less = grades.filter(({ mark }) => mark !== 'good')
  return [
    `${grades.length - less.length} of ${grades.length}`,
    less.map(({ of, mark }) => (mark === 'poor' ? `POOR ${of}` : of)).join(', '),
  ]
}
table(
  'Ways to prepare, as a tutor would look them over',
  ['way', 'good', 'fair', 'good, second input', 'fair'],
  wayFiles.map((name) => [
    name.replace(/\.json$/, ''),
    ...words(looked(recordOfWay(readWay(name)))),
    ...words(looked(secondInputs(name))),
  ]),
)
