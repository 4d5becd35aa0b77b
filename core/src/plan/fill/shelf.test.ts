import { parts, type PlanSession } from '@climber/contract'
import { gardenShelf, inputsOf } from '../../../test/arbitrary'
import { gardenBaseline, gardenExam, gardenRecord, practice } from '../../../test/fixture'
import { flatPlan } from '../../../test/flat'
import {
  overview,
  compareSchools,
  formsWith,
  inChapterOrder,
  makePlan,
  paced,
  readShelf,
  schools,
  shelfHours,
  writePlan,
  wordsOf,
  writeShelf,
} from '../../index'

const now = { date: '2031-03-03', minute: 420 }
const record = () => gardenRecord({ materials: gardenShelf })
const input = () => inputsOf({ record: record(), minute: 420, seed: 1 }).plan
const done = (pages: number, minutesDone: number): PlanSession => ({
  id: 'study.names-1.1',
  date: '2031-03-02',
  start: '18:00',
  minutes: 50,
  kind: 'learn',
  topics: ['names-1'],
  pinned: false,
  status: 'done',
  minutesDone,
  material: { id: 'handbook', pages, text: 'Pages' },
})

describe('the own pace', () => {
  it('is the default without a record, learned from it, and what is set by hand', () => {
    const pace = (sessions: PlanSession[], items = gardenShelf.items) =>
      paced({ items }, sessions)[0]!.minutesEach
    expect(pace([])).toBe(3)
    expect(pace([done(40, 240)])).toBeCloseTo((240 + 120) / (40 + 40), 10)
    expect(pace(Array.from({ length: 50 }, () => done(40, 240)))).toBeGreaterThan(5.9)
    expect(pace([done(40, 240)], [{ ...gardenShelf.items[0]!, minutesEach: 2 }])).toBe(2)
  })
  it('gives each topic its hours: pages shared between the topics of a chapter, longer with questions', () => {
    const hours = shelfHours(gardenExam, paced(gardenShelf))
    // 40 pages for two topics at 3 minutes, 60 for three of which one is shared; half as long again for the bank.
    expect(hours['names-1']).toBeCloseTo(((40 * 3) / 2 / 60) * 1.5, 10)
    expect(hours['names-2']).toBeCloseTo(((40 * 3) / 2 / 60 + (60 * 3) / 3 / 60) * 1.5, 10)
    expect(hours['names-5']).toBeUndefined()
    const taus = new Map(overview(record(), now).topics.map(({ id, tau }) => [id, tau]))
    expect(taus.get('names-1')).toBeCloseTo(hours['names-1']!, 10)
    expect(taus.get('names-5')).toBe(9)
  })
})

describe('the shelf in a plan', () => {
  const plan = flatPlan(input(), makePlan(input()))
  it('hands each page and question out once, in order, with known errors', () => {
    const pages = plan.sessions.filter(({ material }) => material?.id === 'handbook' && material.pages)
    expect(pages.length).toBeGreaterThan(3)
    expect(pages[0]!.material!.text).toMatch(/pages \d+ to \d+ \(known errors: page 31/)
    const whole = pages.reduce((sum, { material }) => sum + material!.pages!, 0)
    expect(whole).toBe(125)
    const ranges = pages.map(({ material }) => [material!.from!, material!.from! + material!.pages!])
    ranges.sort((a, b) => a[0]! - b[0]!)
    ranges.slice(1).forEach(([from], at) => expect(from).toBe(ranges[at]![1]))
    const asked = plan.sessions.filter(({ material }) => material?.id === 'bank')
    expect(asked.some(({ material }) => material!.questions === 12)).toBe(true)
    expect(asked.reduce((sum, { material }) => sum + material!.questions!, 0)).toBeLessThanOrEqual(500)
  })
  it('keeps a reserved test for rehearsal', () => {
    const forms = formsWith(gardenExam, paced(gardenShelf))
    expect(forms[forms.length - 1]).toMatchObject({ id: 'orchard-paper', source: 'other' })
    const used = plan.sessions.find(({ form }) => form === 'orchard-paper')
    const rehearse = plan.phases.find(({ name }) => name === 'Rehearse')!
    if (used) expect(used.date >= rehearse.from).toBe(true)
  })
  it('puts chapters in order without ever making a circle', () => {
    const topics = [
      { id: 'a', prerequisites: ['b'] },
      { id: 'b', prerequisites: [] },
      { id: 'c', prerequisites: [] },
    ]
    const chapters = ['a', 'b', 'c'].map((id) => ({ title: id, pages: 10, topics: [id] }))
    const shelf = paced({ items: [{ id: 'book', title: 'Book', kind: 'book', inOrder: true, chapters }] })
    // The exam says b before a; the book's a before b is left out, its b before c is taken.
    expect(inChapterOrder(topics, shelf).map(({ prerequisites }) => prerequisites)).toEqual([
      ['b'],
      [],
      ['b'],
    ])
  })
})

describe('a test that runs above the exam', () => {
  it('counts for less in the forecast by what the shelf says', () => {
    const test = practice(
      1,
      '2031-03-02',
      {
        'names-items': { right: 40, wrong: 15, blank: 5 },
        'ledgers-items': { right: 20, wrong: 5, blank: 5 },
      },
      { form: 'board-1' },
    )
    const mean = (offset?: number) =>
      overview(
        gardenRecord({
          attempts: [gardenBaseline, test],
          materials: parts.materials.parse({
            items: [
              { id: 'paper', title: 'Paper', kind: 'test', form: 'board-1', ...(offset && { offset }) },
            ],
          }),
        }),
        now,
      ).odds!.forecast.mean
    expect(mean(30)).toBeLessThan(mean() - 5)
    expect(mean(-30)).toBeGreaterThan(mean() + 5)
  })
})

describe('materials as CSV', () => {
  it('go out and come in the same', () => {
    const shelf = parts.materials.parse({
      items: paced(gardenShelf).map(({ minutesEach: _, ...item }) => item),
    })
    const { items, problems } = readShelf(writeShelf(shelf), gardenExam)
    expect(problems).toEqual([])
    expect(parts.materials.parse({ items })).toEqual(shelf)
  })
  it('report every fault with its row, and take nothing', () => {
    const { items, problems } = readShelf(
      'kind,title,pages,topics,questions\nbook,A,ten,nowhere,\nshelf,B,,,\nbank,C,,,1.5\nbank,,,,3\n',
      gardenExam,
    )
    expect(items).toEqual([])
    expect(problems.map(({ row, column }) => [row, column])).toEqual([
      [2, 'topics'],
      [2, 'pages'],
      [3, 'kind'],
      [4, 'questions'],
      [5, 'title'],
    ])
  })
})

describe('schools side by side', () => {
  const settings = gardenRecord().settings
  const ways = schools.map(({ title, settings: own }) => ({
    title,
    settings: parts.settings.parse({ ...settings, ...own }),
  }))
  const found = compareSchools(gardenRecord(), now, 1, ways)
  it('each makes a plan, and they differ in what they say they differ in', () => {
    expect(found.map(({ title }) => title)).toEqual(schools.map(({ title }) => title))
    for (const way of found) {
      expect(way.total).toBeCloseTo(
        Object.values(way.hours).reduce((a, b) => a + b, 0),
        6,
      )
      expect(way.fullest).toBeGreaterThanOrEqual(way.average)
      expect(way.odds).toBeGreaterThan(0)
    }
    const named = (id: string) => found[schools.findIndex((school) => school.id === id)]!
    expect(named('read-first').tests).toBeLessThanOrEqual(named('lead-time').tests)
    expect(named('easiest').hours.review!).toBeLessThan(named('lead-time').hours.review!)
  })
})

it('the plan goes out as a table, a row a session', () => {
  const { sessions } = makePlan(input())
  const lines = writePlan(sessions, wordsOf(record(), now.date)).trimEnd().split('\r\n')
  expect(lines[0]).toBe('date,start,minutes,kind,title,material,status,minutes_done,feeling,why')
  expect(lines).toHaveLength(sessions.length + 1)
  expect(lines[1]).toContain(sessions[0]!.date)
})
