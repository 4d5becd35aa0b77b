import {
  clockWords,
  dateWords,
  distanceWords,
  dayWords,
  durationWords,
  endOf,
  locale,
  percentWords,
} from '../src/manners/words'

describe('words', () => {
  it('dates as people say them', () => {
    expect(dateWords('2027-03-09', '2027-01-01')).toBe('Tue 9 Mar')
    expect(dateWords('2027-03-09', '2026-12-01')).toBe('Tue 9 Mar 2027')
  })
  it('dates with the month first where the account writes them so', () => {
    locale.value = 'en-US'
    expect([dateWords('2027-03-09', '2026-12-01'), dayWords('2027-11-30')]).toEqual([
      'Tue Mar 9 2027',
      'Nov 30',
    ])
    locale.value = 'en-GB'
    expect(dayWords('2027-11-30')).toBe('30 Nov')
  })
  it.each([
    ['2027-03-09', 'today'],
    ['2027-03-10', 'tomorrow'],
    ['2027-03-08', 'yesterday'],
    ['2027-03-21', 'in 12 days'],
    ['2027-03-01', '8 days ago'],
  ])('%s is %s', (date, words) => expect(distanceWords(date, '2027-03-09')).toBe(words))
  it('durations, clocks and shares', () => {
    expect([45, 60, 90, 125].map(durationWords)).toEqual(['45 min', '1 h', '1 h 30', '2 h 05'])
    expect(clockWords(667)).toBe('11:07')
    expect([0, 0.004, 0.414, 0.996, 1].map(percentWords)).toEqual([
      '0%',
      'under 1%',
      '41%',
      'over 99%',
      '100%',
    ])
    expect(endOf('23:30', 60)).toBe('24:00')
  })
})
