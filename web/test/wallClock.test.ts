import fc from 'fast-check'
import { wallClock } from '@climber/core'
import { clockIn } from '../src/manners/wallClock'

describe('the clock of a zone', () => {
  it('shows what the core’s shows, through clock changes and over midnight', () => {
    const zones = ['Etc/UTC', 'Europe/Berlin', 'Asia/Kathmandu', 'Pacific/Chatham', 'America/St_Johns']
    fc.assert(
      fc.property(
        fc.date({ min: new Date('2020-01-01'), max: new Date('2039-12-31'), noInvalidDate: true }),
        fc.constantFrom(...zones),
        (instant, zone) => {
          expect(clockIn(instant.toISOString(), zone)).toEqual(wallClock(instant.toISOString(), zone))
        },
      ),
    )
    expect(clockIn('2026-12-31T23:00:00Z', 'Europe/Berlin')).toEqual({ date: '2027-01-01', minute: 0 })
  })
})
