import { weeksAsText, type WeekSheet } from '../src/screens/plan/weekText'

const week: WeekSheet = {
  begins: 'Mon 4 Mar',
  minutes: 150,
  phase: 'Learn',
  days: [
    { day: 'Mon 4 Mar', sessions: [] },
    {
      day: 'Tue 5 Mar',
      sessions: [
        {
          start: '17:30',
          end: '18:30',
          kind: 'Learn',
          title: 'Tide heights',
          material: 'The harbour handbook: pages 10 to 24',
        },
        { start: '18:40', end: '20:10', kind: 'Test', title: 'Board paper 2' },
      ],
    },
    { day: 'Sat 9 Mar', exam: '09:30 Exam, Customs hall', sessions: [] },
  ],
}

describe('a week as text', () => {
  it('has a line for each session, its material below it, and leaves out empty days', () => {
    expect(weeksAsText('Wenna Tarrowby', [week])).toBe(
      [
        'Wenna Tarrowby, week of Mon 4 Mar: 2 h 30 (Learn)',
        '',
        'Tue 5 Mar',
        '  17:30 to 18:30  Learn: Tide heights',
        '      The harbour handbook: pages 10 to 24',
        '  18:40 to 20:10  Test: Board paper 2',
        '',
        'Sat 9 Mar',
        '  09:30 Exam, Customs hall',
        '',
      ].join('\n'),
    )
  })
  it('keeps weeks apart', () => {
    expect(weeksAsText('W', [week, { ...week, days: [] }]).split('\n\n\n')).toHaveLength(2)
  })
})
