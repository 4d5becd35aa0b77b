import type { ItemResponse, RoomSetup } from '@climber/contract'
import { gardenExam, gardenRecord, morning, practice } from '../../test/fixture'
import { exams, now, record } from '../../test/shipped'
import { randomFrom } from '../exact/random'
import { asSat } from '../exam/accommodation'
import { partsGranted } from '../room/parts'
import { groupsOf } from '../scoring/raw'
import { assess } from './assessment'
import { roomView } from './room'
import { testsSay } from './says'

const today = morning('2031-03-20')
const setupOf = (sections: string[], more: Partial<RoomSetup> = {}) => ({
  id: '00000000-0000-4000-8000-000000000001',
  whole: sections.length === gardenExam.sections.length,
  parts: partsGranted(gardenExam, 1, { sections }),
  ...more,
})

describe('before a test', () => {
  it('says what to expect of the whole, and of other makers’ papers by what they run', () => {
    const own = roomView(gardenRecord(), today, setupOf(['names', 'ledgers'], { form: 'board-1' }))
    expect(own.composite!.low).toBeLessThan(own.composite!.mean)
    expect(own.composite!.mean).toBeLessThan(own.composite!.high)
    expect(own.sections.map(({ section }) => section)).toEqual(['names', 'ledgers'])
    const sum = own.sections.reduce((total, { mean }) => total + mean, 0)
    expect(Math.abs(sum - own.composite!.mean)).toBeLessThan(3)
  })
  it('expects nothing of somebody whom nobody measured, and no composite of a part', () => {
    expect(assess(gardenRecord(), today).learner.measured).toBe(true)
    const blank = roomView(gardenRecord({ attempts: [] }), today, setupOf(['names', 'ledgers']))
    expect([blank.composite, blank.sections]).toEqual([undefined, []])
    const part = roomView(gardenRecord(), today, setupOf(['ledgers'], { whole: false }))
    expect(part.composite).toBeUndefined()
    expect(part.sections).toHaveLength(1)
  })
  it.each(exams)('%s: the budgets of every way through a section come to its time', (_title, exam) => {
    const own = record(exam, 0.6)
    const sat = asSat(own.exam, own.settings)
    const parts = partsGranted(sat.exam, sat.timeFactor, { sections: exam.sections.map(({ id }) => id) })
    const { paces } = roomView(own, now, { id: setupOf([]).id, whole: true, parts })
    for (const { id, seconds } of parts) {
      const section = exam.sections.find((one) => one.id === id)!
      expect(paces[id]).toHaveLength(section.stages?.length ?? 1)
      for (const pace of paces[id]!) {
        expect(pace.budgets.reduce((sum, own) => sum + own, 0)).toBeCloseTo(seconds, 0)
        expect(pace.leave).toHaveLength(pace.budgets.length)
        expect(Math.max(...pace.checkpoints.map(({ item }) => item))).toBe(pace.budgets.length)
      }
    }
  })
  it('gives a set the same to each item', () => {
    const set = { items: 12, topics: ['names-1', 'ledgers-2'] }
    const parts = partsGranted(gardenExam, 1, { set })
    const { paces } = roomView(gardenRecord(), today, { ...setupOf([]), whole: false, set, parts })
    expect(new Set(paces['set']![0]!.budgets).size).toBe(1)
    expect(paces['set']![0]!.budgets).toHaveLength(12)
  })
})

describe('what tests say of a record', () => {
  /** A paper answered by a row of signs for each section, a minute and a quarter an item. */
  const answered = (...rows: string[]): ItemResponse[] =>
    [...rows.join('')].map((sign, at) => ({
      item: at + 1,
      answer: sign === '.' ? '' : sign === '+' ? 'A' : 'B',
      key: 'A',
      seconds: sign === '-' ? 200 : 60,
    }))
  const names = '++++++++++++++++++++++++++++++++++++++-+-----+---.---+------'
  const ledgers = '+++++-+++++++++++++++++++++...'
  const test_ = (n: number, form: string) =>
    practice(n, `2031-03-1${n}`, {}, { form, items: answered(names, ledgers) })
  const own = gardenRecord({ attempts: [...gardenRecord().attempts, test_(1, 'wall-1'), test_(2, 'wall-2')] })

  it('is read section by section, each figure with its items', () => {
    const says = testsSay(own, today, [test_(1, 'wall-1').id])
    expect(says.tests).toEqual([
      { id: test_(1, 'wall-1').id, title: 'Wall press paper 1', date: '2031-03-11' },
    ])
    const [first, second] = says.sections
    expect(first!.drifts).toBe(true)
    expect(Math.abs(first!.drift!.from.item - 39)).toBeLessThanOrEqual(5)
    expect(second!.drifts).toBe(false)
    expect(says.time.notReached.map(({ item }) => item)).toEqual([88, 89, 90])
    expect(says.time.sinks.map(({ item }) => item)).toEqual(
      says.sections.flatMap(({ items }) =>
        items[0]!
          .filter(({ outcome, seconds, budget }) => outcome !== 'right' && seconds! > 2 * budget)
          .map(({ item }) => item),
      ),
    )
    expect(says.calibrated).toEqual([])
  })
  it('lays several over each other, and leaves out tests whose items are not known', () => {
    const says = testsSay(own, today)
    expect(says.tests).toHaveLength(2)
    expect(says.sections[0]!.items).toHaveLength(2)
    expect(says.sections[0]!.drift!.p).toBeLessThanOrEqual(
      testsSay(own, today, [test_(1, 'wall-1').id]).sections[0]!.drift!.p,
    )
    expect(testsSay(gardenRecord(), today)).toMatchObject({ tests: [], sections: [] })
  })
  it.each(exams)('%s: reads any paper, second stages and sets included', (_title, exam) => {
    const random = randomFrom(5)
    const groups = exam.sections.flatMap(groupsOf)
    const items = Array.from({ length: groups.reduce((sum, { items: own }) => sum + own, 0) }, (_, at) => ({
      item: at + 1,
      answer: random() < 0.1 ? '' : random() < 0.6 ? 'A' : 'B',
      key: 'A',
      seconds: 20 + 100 * random(),
    }))
    const paper = practice(1, '2030-01-12', {}, { items })
    const base = record(exam, 0.6)
    const says = testsSay({ ...base, attempts: [...base.attempts, paper] }, now)
    expect(says.sections.map(({ id }) => id)).toEqual(exam.sections.map(({ id }) => id))
    for (const { items: lists } of says.sections)
      for (const one of lists.flat()) {
        expect(one.budget).toBeGreaterThan(0)
        expect(one.expected).toBeGreaterThan(0)
        expect(one.expected).toBeLessThan(1)
      }
  })
})
