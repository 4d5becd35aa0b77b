import type { Section } from '@climber/contract'
import { railOf } from './rail'
import type { ItemState, PartState, RoomState } from './state'

const group = {
  id: 'g',
  kind: 'choice',
  items: 4,
  choices: 4,
  perRight: 1,
  perWrong: 0,
} as ItemState['group']
const item = (number: number, more: Partial<ItemState> = {}): ItemState => ({
  item: number,
  group,
  at: number - 1,
  part: 0,
  answer: '',
  changes: [],
  struck: new Set(),
  visits: [],
  left: false,
  done: false,
  ...more,
})
const room = (
  items: ItemState[],
  more: Partial<RoomState> = {},
  part: Partial<PartState> = {},
): RoomState => ({
  phase: 'working',
  at: 0,
  next: 0,
  stops: [],
  away: false,
  dropped: false,
  parts: [
    {
      part: {
        id: 's',
        seconds: 400,
        timed: true,
        breakSeconds: 0,
        title: 'S',
        section: {} as Section,
        items: () => [],
      },
      items,
      began: 1000,
      bell: 1400,
      byBell: false,
      firstStage: items.length,
      checkpoints: [],
      ...part,
    },
  ],
  ...more,
})
const pace = {
  budgets: [100, 100, 100, 100],
  leave: [130, 130, null, 130],
  checkpoints: [
    { item: 2, seconds: 200 },
    { item: 4, seconds: 400 },
  ],
}

describe('the rail', () => {
  it('gives what was done its budget, and the item taken up what it took, at most its budget', () => {
    const items = [item(1, { answer: 'A', visits: [80] }), item(2), item(3), item(4)]
    const at = (now: number) => railOf(room(items, { current: { item: 2, since: 1080 } }), pace, now)!
    expect(at(1080).ahead).toBe(20)
    expect(at(1130)).toMatchObject({ ahead: 20, spent: 130, on: { spent: 50, budget: 100, leave: 130 } })
    expect(at(1220).ahead).toBe(-20)
    expect(at(1220).next).toEqual({ item: 2, seconds: 200 })
  })
  it('counts an item that was left as had, and one come back to no twice', () => {
    const items = [
      item(1, { left: true, visits: [30] }),
      item(2, { answer: 'B', visits: [70] }),
      item(3),
      item(4),
    ]
    const state = room(items, { current: { item: 1, since: 1100 } })
    expect(railOf(state, pace, 1120)!.ahead).toBe(200 - 120)
  })
  it('stands still while the clock is stopped', () => {
    const items = [item(1), item(2), item(3), item(4)]
    const state = room(items, {
      current: { item: 1, since: 1050 },
      stops: [{ at: 1010, seconds: 50 }],
      stopped: 1090,
    })
    expect(railOf(state, pace, 1200)).toMatchObject({ spent: 40, ahead: 0 })
  })
  it('by checkpoints knows what the last one said, until the next is overdue', () => {
    const items = [item(1), item(2), item(3), item(4)]
    const state = room(items, {}, { checkpoints: [{ item: 2, seconds: 150 }] })
    expect(railOf(state, pace, 1300)).toMatchObject({ ahead: 50, next: { item: 4, seconds: 400 } })
    expect(railOf(state, pace, 1410)!.ahead).toBe(-10)
  })
  it('is not there in a break', () => {
    expect(railOf(room([item(1)], { phase: 'break' }), pace, 1100)).toBeUndefined()
  })
})
