import fc from 'fast-check'
import { longestCode, longestShort, shortNames } from './shortNames'

const named = (...titles: string[]) => shortNames(titles.map((title) => ({ title })))

describe('short names', () => {
  it('are the words that a title begins with, as many as there is room for', () => {
    expect(
      named('Tide heights and tables', 'Course offset for set', 'Buoys and beacons of the estuary', 'Seals'),
    ).toEqual([
      { short: 'Tide heights', word: 'Tide', code: 'Tide' },
      { short: 'Course offset', word: 'Course', code: 'Cour' },
      { short: 'Buoys beacons', word: 'Buoys', code: 'Buoy' },
      { short: 'Seals', word: 'Seals', code: 'Seal' },
    ])
  })
  it('are one word where it tells a topic from the others', () => {
    const words = (...titles: string[]) => named(...titles).map(({ word }) => word)
    expect(words('Tide heights', 'Tide streams', 'Moorings at night')).toEqual([
      'Tide heights',
      'Tide streams',
      'Moorings',
    ])
  })
  it('say what tells topics apart that begin alike', () => {
    const names = named('Dating by seal', 'Dating by watermarks', 'Dating by hand')
    expect(names.map(({ short }) => short)).toEqual(['Dating by seal', 'Dati. waterma.', 'Dating by hand'])
    expect(names.map(({ code }) => code)).toEqual(['Dati', 'DaWa', 'DaHa'])
  })
  it('are what somebody chose, and nobody else’s', () => {
    expect(
      shortNames([{ title: 'Marsh plants' }, { title: 'Plants of the salt marsh', short: 'Marsh plants' }]),
    ).toMatchObject([{ short: expect.not.stringMatching(/^Marsh plants$/) }, { short: 'Marsh plants' }])
  })
  it('are made of little words where there are no others', () => {
    expect(named('To and from')[0]!.short).toBe('To and from')
  })
  it('are different, short and the same each time, whatever the titles', () => {
    const title = fc.oneof(
      fc.string({ minLength: 1, maxLength: 60 }).filter((text) => text.trim() !== ''),
      fc.string({ unit: 'grapheme', minLength: 1, maxLength: 30 }).filter((text) => text.trim() !== ''),
      fc.constantFrom('Tide', 'Tide tables', 'Tide table', 'tide tables', 'The tide', 'Tides of the sound'),
    )
    fc.assert(
      fc.property(fc.array(title, { maxLength: 60 }), (titles) => {
        const names = named(...titles)
        for (const { short, code } of names) {
          expect(Array.from(short).length).toBeLessThanOrEqual(longestShort)
          expect(Array.from(code).length).toBeLessThanOrEqual(longestCode)
          expect(short.trim() && code.trim()).not.toBe('')
        }
        expect(new Set(names.map(({ word }) => word.toLowerCase())).size).toBe(titles.length)
        expect(new Set(names.map(({ short }) => short.toLowerCase())).size).toBe(titles.length)
        expect(new Set(names.map(({ code }) => code.toLowerCase())).size).toBe(titles.length)
        expect(named(...titles)).toEqual(names)
      }),
    )
  })
})
