import fc from 'fast-check'
import { paced } from '../../hours/shelf'
import { chaptersOf, readingHours } from './chapters'

const [item] = paced({
  items: [
    {
      id: 'book',
      title: 'Book',
      kind: 'book',
      chapters: [
        { title: 'One', pages: 40, topics: ['a', 'b'] },
        { title: 'Two', pages: 25, topics: ['b'] },
      ],
    },
  ],
})
const read = (pages: number, from?: number) => ({
  id: `s.${pages}.${from}`,
  date: '2031-03-03',
  start: '18:00',
  minutes: 50,
  kind: 'learn' as const,
  topics: ['a'],
  pinned: false,
  status: 'done' as const,
  material: { id: 'book', text: 'pages', pages, ...(from !== undefined && { from }) },
})

describe('chapters', () => {
  it('are handed out where nobody has read, holes first', () => {
    const [one, two] = chaptersOf([item!], [read(10, 0), read(5, 20), read(25, 40)])
    expect(one!.next(100)).toEqual({ from: 10, to: 20 })
    expect(one!.left()).toBe(25)
    expect(two!.next()).toBeUndefined()
    one!.take({ from: 10, to: 20 })
    expect(one!.next(4)).toEqual({ from: 25, to: 29 })
  })
  it('count pages of earlier versions from the front of the book', () => {
    const [one, two] = chaptersOf([item!], [read(30), read(20)])
    expect(one!.left()).toBe(0)
    expect(two!.next()).toEqual({ from: 50, to: 65 })
  })
  it('however they are read, no page is handed out twice and none is left', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({ from: fc.integer({ min: 0, max: 60 }), pages: fc.integer({ min: 1, max: 30 }) }),
        ),
        fc.array(fc.integer({ min: 1, max: 20 }), { minLength: 1 }),
        (before, sizes) => {
          const chapters = chaptersOf(
            [item!],
            before.map(({ from, pages }) => read(pages, from)),
          )
          const pages = new Set<number>()
          for (const { from, pages: count } of before)
            for (let page = from; page < Math.min(65, from + count); page++) pages.add(page)
          for (const chapter of chapters)
            for (let turn = 0; ; turn++) {
              const next = chapter.next(sizes[turn % sizes.length])
              if (!next) break
              chapter.take(next)
              for (let page = next.from; page < next.to; page++) {
                expect(pages.has(page)).toBe(false)
                pages.add(page)
              }
            }
          expect(pages.size).toBe(65)
          expect(readingHours(chapters, [{ id: 'a' }, { id: 'b' }])).toEqual([0, 0])
        },
      ),
      { numRuns: 200 },
    )
  })
  it('share their hours between their topics', () => {
    expect(readingHours(chaptersOf([item!], []), [{ id: 'a' }, { id: 'b' }, { id: 'c' }])).toEqual([
      1, 2.25, 0,
    ])
  })
})
