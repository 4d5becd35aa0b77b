import { jest } from '@jest/globals'
import DateField from '../../src/kit/DateField.vue'
import FileField from '../../src/kit/FileField.vue'
import MinutesField from '../../src/kit/MinutesField.vue'
import NumberField from '../../src/kit/NumberField.vue'
import TextField from '../../src/kit/TextField.vue'
import TimeField from '../../src/kit/TimeField.vue'
import { effectScope, nextTick, ref } from 'vue'
import { painted } from '../../src/manners/painted'
import { shown } from './mounting'

jest.setTimeout(120_000)
const today = '2030-01-15'
afterEach(() => (document.body.innerHTML = ''))

describe('a number field', () => {
  it('has a name, a unit, and gives numbers as they are typed', async () => {
    const { page, value, type } = shown(NumberField, 12 as number | undefined, {
      label: 'Items',
      unit: 'items',
      min: 1,
      max: 90,
    })
    expect(page.get('label').text()).toContain('Items')
    expect(page.text()).toContain('items')
    await type('40', false)
    expect(value.value).toBe(40)
    await type('7,5')
    expect(value.value).toBe(7.5)
  })
  it.each([
    ['ninety', 'a whole number, from 1 to 90'],
    ['91', 'a whole number, from 1 to 90'],
    ['2.5', 'a whole number, from 1 to 90'],
    ['', 'a whole number, from 1 to 90'],
  ])('says of %p, when it is left, what would be right, and keeps it', async (text, words) => {
    const { value, input, type, errors } = shown(NumberField, 12 as number | undefined, {
      label: 'Items',
      min: 1,
      max: 90,
      whole: true,
    })
    await type(text, false)
    expect(errors()).not.toContain(words)
    await type(text)
    expect(errors()).toEqual([words])
    expect(input().element.value).toBe(text)
    expect(value.value).toBe(12)
  })
  it('emptied gives nothing where it may stay empty', async () => {
    const { value, type, errors } = shown(NumberField, 12 as number | undefined, {
      label: 'Cap',
      optional: true,
    })
    await type('')
    expect(value.value).toBeUndefined()
    expect(errors()).toEqual([])
  })
  it('follows what comes from elsewhere while it is typed in, but for what cannot be read yet', async () => {
    const { value, input, type } = shown(NumberField, 12 as number | undefined, { label: 'Items' })
    await type('33', false)
    expect(value.value).toBe(33)
    value.value = 34
    await nextTick()
    expect(input().element.value).toBe('34')
    await type('3x', false)
    value.value = 35
    await nextTick()
    expect(input().element.value).toBe('3x')
  })
  it('shows what the server has against it', () => {
    const { errors } = shown(NumberField, 12 as number | undefined, {
      label: 'Items',
      errors: ['at most 10'],
    })
    expect(errors()).toEqual(['at most 10'])
  })
})

describe('a field of minutes', () => {
  it.each([
    ['90', 90],
    ['1 h 30', 90],
    ['1:45', 105],
    ['1.5 h', 90],
  ])('reads %p', async (text, minutes) => {
    const { value, input, type } = shown(MinutesField, 5 as number | undefined, { label: 'A day' })
    await type(text)
    expect(value.value).toBe(minutes)
    expect(input().element.value).toMatch(/^1 h (30|45)$/)
  })
  it('says its range', async () => {
    const { type, errors } = shown(MinutesField, 5 as number | undefined, {
      label: 'A day',
      min: 15,
      max: 120,
    })
    await type('3 h')
    expect(errors()).toEqual(['between 15 min and 2 h'])
  })
})

describe('a field of a day', () => {
  it.each([
    ['9 Mar', '2030-03-09'],
    ['9.3.', '2030-03-09'],
    ['tomorrow', '2030-01-16'],
    ['+2w', '2030-01-29'],
    ['2030-02-01', '2030-02-01'],
  ])('reads %p and shows it in words', async (text, date) => {
    const { value, input, type } = shown(DateField, undefined as string | undefined, {
      label: 'Day off',
      today,
    })
    await type(text)
    expect(value.value).toBe(date)
    expect(input().element.value).toMatch(/^[A-Z][a-z]{2} \d{1,2} [A-Z][a-z]{2}$/)
  })
  it('says of a day that is over which are not, and of no day what would be one', async () => {
    const { value, type, errors } = shown(DateField, undefined as string | undefined, {
      label: 'Day off',
      today,
      min: today,
    })
    await type('2029-12-24')
    expect(errors()).toEqual(['Mon 24 Dec 2029 is over; choose a day from today on'])
    await type('soon')
    expect(errors()).toEqual(['a day such as 9 Mar, 9.3., tomorrow or +2w'])
    expect(value.value).toBeUndefined()
  })
  it('left without a change keeps its day', async () => {
    const { value, input } = shown(DateField, '2031-03-09' as string | undefined, { label: 'Sat on', today })
    await input().trigger('blur')
    expect(value.value).toBe('2031-03-09')
  })
})

describe('the others', () => {
  it('a time is read in its usual ways', async () => {
    const { value, type, errors } = shown(TimeField, undefined as string | undefined, { label: 'From' })
    await type('1730')
    expect(value.value).toBe('17:30')
    await type('25:00')
    expect(errors()).toEqual(['a time such as 17:30'])
    expect(value.value).toBe('17:30')
  })
  it('a text that only a screen reader needs the name of has it', () => {
    const { page } = shown(TextField, 'x', { label: 'Row 3: name', quiet: true })
    expect(page.get('input').attributes('aria-label')).toBe('Row 3: name')
  })
  it('a file is handed over once, and the same can be chosen again', async () => {
    const chosen = jest.fn()
    const { page } = shown(FileField, undefined, { label: 'Answers', accept: '.csv', onChosen: chosen })
    const file = new File(['a'], 'a.csv')
    for (let time = 1; time <= 2; time++) {
      const input = page.get('input[type=file]')
      Object.defineProperty(input.element, 'files', { value: [file], configurable: true })
      await input.trigger('change')
      expect(chosen).toHaveBeenCalledTimes(time)
    }
    expect(chosen).toHaveBeenLastCalledWith(file)
  })
})

describe('what is drawn a frame later', () => {
  it('follows the last of several changes, once the press is on the screen', async () => {
    const value = ref(1)
    const scope = effectScope()
    const late = scope.run(() => painted(() => value.value))!
    value.value = 2
    await nextTick()
    value.value = 3
    await nextTick()
    expect(late.value).toBe(1)
    const began = Date.now()
    while (late.value === 1 && Date.now() - began < 60_000) await new Promise((then) => setTimeout(then, 5))
    expect(late.value).toBe(3)
    value.value = 4
    await nextTick()
    scope.stop()
    await new Promise((then) => setTimeout(then, 100))
    expect(late.value).toBe(3)
  })
})
