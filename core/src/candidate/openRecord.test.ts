import { gardenRecord, morning } from '../../test/fixture'
import { assess, OpenRecord, overview, remembered } from '../index'

const on = '2031-03-03'

describe('remembering', () => {
  it('works once for the same objects, again for others, and forgets the oldest', () => {
    let worked = 0
    const work = remembered((a: object, b: number) => ({ a, b, n: ++worked }), 2)
    const [one, two] = [{}, {}]
    const first = work(one, 1)
    expect(work(one, 1)).toBe(first)
    work(two, 1)
    expect(work(one, 1)).toBe(first)
    work(one, 2)
    work(two, 1)
    expect(worked).toBe(4)
  })
  it('never answers with what rests on something else', () => {
    const record = gardenRecord()
    const before = assess(record, morning(on))
    expect(assess(record, morning(on))).toBe(before)
    // A part that changes in a record that is the same object, another minute, another part.
    record.target = { ...record.target, scaled: 555 }
    expect(assess(record, morning(on)).goal.mean).toBe(555)
    expect(assess({ ...record, ratings: { ...record.ratings, topics: {} } }, morning(on)).known).not.toEqual(
      before.known,
    )
    expect(assess(record, { date: on, minute: 431 }).now.minute).toBe(431)
  })
  it('keeps what rests on the parts that stay', () => {
    const record = gardenRecord()
    const before = assess(record, morning(on))
    const after = assess({ ...record, target: { ...record.target, scaled: 500 } }, morning(on))
    expect(after.learner).toBe(before.learner)
    expect(after.goal).not.toEqual(before.goal)
  })
})

describe('the open record', () => {
  it('answers as the question itself does, after every change', () => {
    const record = gardenRecord()
    const held = new OpenRecord()
    expect(() => held.ask('overview', morning(on))).toThrow('no record is open')
    held.open(record)
    expect(held.ask('overview', morning(on))).toEqual(overview(record, morning(on)))
    const target = { ...record.target, scaled: 300 }
    held.change({ target })
    expect(held.ask('overview', morning(on))).toEqual(overview({ ...record, target }, morning(on)))
    const { plan } = held.ask('previewPlan', morning(on), 1)!
    held.change({ plan })
    expect(held.ask('replan', morning(on), 1)!.diff.moved).toEqual([])
  })
})
