import { readFileSync } from 'node:fs'
import path from 'node:path'
import { ClimberFile, ExamFormat } from '@climber/contract'
import { numbers } from '../shared/numbers'

/** The four exams that ship. */
export const shippedExams = [
  'tidal-pilotage',
  'timber-conservation',
  'garden-records',
  'archive-cataloguing',
].map(
  (name) =>
    ClimberFile.parse(
      JSON.parse(readFileSync(path.join(process.cwd(), `demo/${name}.exam.climber.json`), 'utf8')),
    ).exam,
)

/** An exam that nobody thought of: sections, items, penalties, tables, cuts and topics as the numbers of a seed have it. */
export function randomExam(seed: number): ExamFormat {
  const random = numbers((seed * 48271 + 11) % 2147483647)
  const among = <T>(...list: T[]): T => list[Math.floor(random() * list.length)]!
  const from = (least: number, most: number) => least + Math.floor(random() * (most - least + 1))
  const penalty = random() < 0.35
  const sections = Array.from({ length: from(1, 4) }, (_, at) => {
    const items = from(12, 60)
    const choices = from(3, 5)
    const kind = random() < 0.75 ? 'choice' : 'numeric'
    const perWrong = penalty && kind === 'choice' ? 1 / (choices - 1) : 0
    const top = among(10, 80, 200)
    const bend = 0.2 + 0.5 * random()
    return {
      id: `part-${at + 1}`,
      title: `Part ${at + 1}`,
      minutes: Math.round(items * (0.9 + 1.2 * random())),
      groups: [
        {
          id: `part-${at + 1}-items`,
          kind,
          items,
          ...(kind === 'choice' && { choices }),
          perRight: 1,
          perWrong,
          ...(random() < 0.3 && { difficulty: 'rising' }),
        },
      ],
      conversion: {
        points: [
          [-Math.ceil(items * perWrong), 0],
          [Math.round(items * 0.5), Math.round(top * bend)],
          [items, top],
        ],
        step: top > 50 ? 1 : 0.5,
      },
      ...(random() < 0.4 && { cut: Math.round(top * (0.35 + 0.25 * random())) }),
      breakAfter: 5,
    }
  })
  const topics = sections.flatMap(({ id }) => {
    const sizes = Array.from({ length: from(3, 9) }, () => 0.3 + random())
    const all = sizes.reduce((sum, size) => sum + size, 0)
    return sizes.map((size, at) => ({
      id: `${id}-${at + 1}`,
      title: `Chapter ${at + 1} of ${id}`,
      section: id,
      share: size / all,
    }))
  })
  return ExamFormat.parse({
    title: `Register of hedges ${seed}`,
    sections,
    topics,
    composite: { kind: among('sum', 'mean'), step: 1 },
    forms: Array.from({ length: 12 }, (_, at) => ({
      id: `form-${at + 1}`,
      title: `Form ${at + 1}`,
      source: at < 5 ? 'publisher' : 'other',
    })),
    sittings: [{ id: 'only', date: '2031-06-01', start: among('08:30', '09:30', '13:00') }],
  })
}
