import fc from 'fast-check'
import { ref } from 'vue'
import { sorted } from '../src/kit/sorting'

interface Row {
  name: string
  marks: number | undefined
}
const rows: Row[] = [
  { name: 'Moorings', marks: 4 },
  { name: 'Eddies', marks: undefined },
  { name: 'Lights', marks: 9 },
]
const open = (given: Row[] = rows) =>
  sorted(() => given, { name: ({ name }) => name, marks: ({ marks }) => marks })
const names = ({ rows: { value } }: ReturnType<typeof open>) => value.map(({ name }) => name)

describe('a table that sorts', () => {
  it('stands as it was given, until a head is pressed and once it was pressed three times', () => {
    const table = open()
    expect(names(table)).toEqual(['Moorings', 'Eddies', 'Lights'])
    table.head.press('name')
    expect(names(table)).toEqual(['Eddies', 'Lights', 'Moorings'])
    table.head.press('name')
    expect(names(table)).toEqual(['Moorings', 'Lights', 'Eddies'])
    table.head.press('name')
    expect([names(table), table.head.by]).toEqual([['Moorings', 'Eddies', 'Lights'], undefined])
  })
  it('begins figures with the largest, and keeps what is unknown last', () => {
    const table = open()
    table.head.press('marks')
    expect(names(table)).toEqual(['Lights', 'Moorings', 'Eddies'])
    table.head.press('marks')
    expect(names(table)).toEqual(['Moorings', 'Lights', 'Eddies'])
  })
  it('follows its rows', () => {
    const given = ref(rows)
    const table = sorted(() => given.value, { name: ({ name }) => name })
    table.head.press('name')
    given.value = [...rows, { name: 'Anchors', marks: 1 }]
    expect(table.rows.value[0]!.name).toBe('Anchors')
  })
  it('has the same rows whatever it is sorted by, and changes none', () => {
    const row = fc.record({
      name: fc.string(),
      marks: fc.option(fc.double({ noNaN: true }), { nil: undefined }),
    })
    fc.assert(
      fc.property(fc.array(row), fc.array(fc.constantFrom('name', 'marks')), (given, presses) => {
        const before = [...given]
        const table = open(given)
        for (const key of presses) table.head.press(key)
        expect(given).toEqual(before)
        expect(new Set(table.rows.value)).toEqual(new Set(given))
        expect(table.rows.value).toHaveLength(given.length)
      }),
    )
  })
})
