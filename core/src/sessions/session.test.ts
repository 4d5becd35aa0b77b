import type { SessionKind, SessionStatus } from '@climber/contract'
import { hasSlipped, isOpen, slippedLately, statusOn, waits } from './session'

const today = '2030-01-15'
const on = (status: SessionStatus, date: string, kind: SessionKind = 'drill') => ({ status, date, kind })

describe('what became of a session', () => {
  it('a planned one whose day has gone by has slipped; what somebody said stays', () => {
    const told = (status: SessionStatus, date: string) => statusOn(on(status, date), today)
    expect(told('planned', '2030-01-14')).toBe('slipped')
    expect(told('planned', today)).toBe('planned')
    expect(told('slipped', today)).toBe('slipped')
    for (const said of ['running', 'done', 'skipped'] as const) expect(told(said, '2030-01-14')).toBe(said)
  })

  it('is open or has slipped, never both', () => {
    for (const status of ['planned', 'running', 'done', 'slipped', 'skipped'] as const)
      for (const date of ['2030-01-14', today, '2030-01-16'])
        expect(isOpen(on(status, date), today) && hasSlipped(on(status, date), today)).toBe(false)
  })

  it('waits for a place for two weeks; light work does not', () => {
    expect(waits(on('planned', '2030-01-14'), today)).toBe(true)
    expect(waits(on('slipped', '2030-01-01'), today)).toBe(true)
    expect(waits(on('slipped', '2029-12-31'), today)).toBe(false)
    expect(waits(on('skipped', '2030-01-14'), today)).toBe(false)
    expect(slippedLately(on('slipped', '2030-01-14', 'light'), today)).toBe(true)
    expect(waits(on('slipped', '2030-01-14', 'light'), today)).toBe(false)
  })
})
