import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import {
  type CandidateRecord,
  ClimberFile,
  type Counts,
  type ExamFormat,
  type ItemGroup,
} from '@climber/contract'
import { compositeRange, dateOf, dayNumber, groupsMet } from '../src/index'
import { changedRecord, diagnostic, morning, type RecordChange } from './fixture'

/** The exams that ship, and candidates of any strength on them. */
const folder = path.join(process.cwd(), 'demo')
export const exams = readdirSync(folder)
  .filter((name) => name.endsWith('.exam.climber.json'))
  .map((name): [string, ExamFormat] => {
    const { exam } = ClimberFile.parse(JSON.parse(readFileSync(path.join(folder, name), 'utf8')))
    return [exam.title, exam]
  })
export const today = '2030-01-15'
export const now = morning(today)

/** Counts of a group at a rate of success, the rest wrong but for some blanks. */
function countsAt({ kind, items, perRight }: ItemGroup, rate: number, blanks: number): Counts {
  const blank = Math.floor(items * blanks * (1 - rate))
  if (kind === 'written')
    return { right: 0, wrong: 0, blank, notReached: 0, marks: Math.floor((items - blank) * perRight * rate) }
  const right = Math.min(items - blank, Math.round(items * rate))
  return { right, wrong: items - blank - right, blank, notReached: Math.floor(blank / 2) }
}
/** A paper sat at a rate of success, second stages as the first ones lead. */
export function paper(exam: ExamFormat, rate: number, blanks = 0.3): Record<string, Counts> {
  const counts: Record<string, Counts> = {}
  for (const section of exam.sections) {
    for (const group of section.groups) counts[group.id] = countsAt(group, rate, blanks)
    for (const group of groupsMet(section, counts)) counts[group.id] ??= countsAt(group, rate, blanks)
  }
  return counts
}
export function record(exam: ExamFormat, rate: number, change: RecordChange = {}): CandidateRecord {
  const first = exam.sittings.map(({ date }) => date).sort()[0]!
  const by = dayNumber(today) + 70 - dayNumber(first)
  return changedRecord(
    {
      // The first sitting ten weeks away, on any weekday.
      exam: {
        ...exam,
        sittings: exam.sittings.map((one) => ({ ...one, date: dateOf(dayNumber(one.date) + by) })),
      },
      availability: {
        windows: [1, 2, 4, 6].map((weekday) => ({ weekday, from: '12:00', to: '19:00' })),
        minutesPerDay: 360,
      },
      attempts: [diagnostic(paper(exam, rate), { date: '2030-01-10' })],
      target: { scaled: compositeRange(exam).low * 0.4 + compositeRange(exam).high * 0.6 },
    },
    change,
  )
}
