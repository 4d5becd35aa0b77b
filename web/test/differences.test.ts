import { differences } from '../src/manners/differences'

const told = (theirs: unknown, mine: unknown, titles?: Map<string, string>) =>
  differences(theirs, mine, titles).map(({ what, theirs: a, mine: b }) => `${what}: ${a} | ${b}`)

describe('two versions of a document', () => {
  it('differ field by field, in words', () => {
    expect(
      told({ scaled: 300, sitting: 'spring' }, { scaled: 320 }, new Map([['spring', 'In spring']])),
    ).toEqual(['score wanted: 300 | 320', 'sitting: In spring | nothing'])
    expect(told({ travelMinutes: 40, ready: true }, { travelMinutes: 25, ready: false })).toEqual([
      'travel minutes: 40 | 25',
      'ready: yes | no',
    ])
    expect(told({ day: '2030-03-12' }, { day: '' })).toEqual(['day: Tue 12 Mar | nothing'])
  })
  it('name what stands under an id by its title', () => {
    expect(
      told({ topics: { moss: 'weak' } }, { topics: { moss: 'fair' } }, new Map([['moss', 'Mosses']])),
    ).toEqual(['topics, Mosses: weak | fair'])
    expect(
      told(
        { places: [{ id: 'place-1', title: 'The Old Garden', asks: 300 }] },
        { places: [{ id: 'place-1', title: 'The Old Garden', asks: 310 }] },
      ),
    ).toEqual(['places, The Old Garden, asks: 300 | 310'])
  })
  it('say of lists what only one of them has', () => {
    const window = (weekday: number, light = false) => ({ weekday, from: '18:00', to: '19:30', light })
    expect(told({ windows: [window(1), window(3)] }, { windows: [window(1), window(5, true)] })).toEqual([
      'free times: Wed 18:00 to 19:30 | Fri 18:00 to 19:30 light',
    ])
    expect(told({ daysOff: ['2030-03-12'] }, { daysOff: [] })).toEqual(['days off: Tue 12 Mar | nothing'])
  })
  it('are silent where nothing differs', () => {
    expect(told({ a: 1, version: 3, list: [{ b: [1] }] }, { list: [{ b: [1] }], a: 1, version: 4 })).toEqual(
      [],
    )
    expect(told({ a: undefined }, {})).toEqual([])
  })
})
