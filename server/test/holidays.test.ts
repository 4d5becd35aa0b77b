import type { Holiday } from '@climber/contract'
import { dateOf, dayNumber } from '@climber/core'
import type { Database } from '../src/database'
import { listCountries, listHolidays } from '../src/services/holidays'
import { appOn, Browser, freshDatabase } from './harness'

let database: Database
let browser: Browser
beforeAll(async () => {
  database = await freshDatabase()
  browser = new Browser(appOn(database))
  await browser.signUp()
})
afterAll(() => database.sequelize.close())

const countries = listCountries()
const [some] = countries.filter(({ regions }) => regions.length > 3)

describe('public holidays', () => {
  it('are listed by country and region, in order of time, within the days asked for, each day once', async () => {
    const answer = await browser.send('get', `/api/holidays/${some!.id}/2031-02-01/2032-01-31`)
    const found = answer.body as Holiday[]
    expect(found.length).toBeGreaterThan(4)
    const dates = found.map(({ date }) => date)
    expect(dates).toEqual([...new Set(dates)].sort())
    expect(dates[0]! >= '2031-02-01' && dates[dates.length - 1]! <= '2032-01-31').toBe(true)
    for (const { title } of found) expect(title).not.toBe('')
  })
  it('of countries and their regions are days with names', () => {
    expect(countries.length).toBeGreaterThan(100)
    for (const { id, title, regions } of countries.filter((_, at) => at % 4 === 0)) {
      expect(title).not.toBe('')
      for (const place of [id, ...regions.slice(0, 1).map((region) => region.id)])
        for (const { date, title: name } of listHolidays(place, '2031-01-01', '2031-12-31')) {
          expect(dateOf(dayNumber(date))).toBe(date)
          expect(date.startsWith('2031')).toBe(true)
          expect(name.length).toBeGreaterThan(0)
        }
    }
  })
  it('are refused where they are not known, or asked for the wrong way round', async () => {
    const status = async (rest: string) => (await browser.send('get', `/api/holidays/${rest}`)).status
    expect(await status('QQ/2031-01-01/2031-12-31')).toBe(404)
    expect(await status(`${some!.id}-QQQ/2031-01-01/2031-12-31`)).toBe(404)
    expect(await status('nowhere/2031-01-01/2031-12-31')).toBe(404)
    expect(await status(`${some!.id}/2031-12-31/2031-01-01`)).toBe(422)
    expect(await status(`${some!.id}/2031-01-01/2099-01-01`)).toBe(422)
    expect(await status(`${some!.id}/soon/2031-12-31`)).toBe(404)
  })
  it('stay in the list of a candidate, agreed to or not', async () => {
    const candidate = await browser.importCandidate()
    const holidays = [
      { date: '2031-05-01', title: 'Day of gates' },
      { date: '2031-05-02', title: 'Day of walls', work: true },
    ]
    const saved = await browser.send('put', `/api/candidates/${candidate.id}/parts/availability`, {
      version: candidate.parts.availability?.version ?? 0,
      document: { ...(candidate.parts.availability?.document as object), holidays },
    })
    expect(saved.status).toBe(200)
    const file = await browser.send('get', `/api/candidates/${candidate.id}/file`)
    expect(file.body.availability.holidays).toEqual(holidays)
  })
})
