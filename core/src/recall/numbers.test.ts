import fc from 'fast-check'
import { NumbersQuestion, type Tolerance } from '@climber/contract'
import { readFormula } from './formula'
import {
  checkQuestion,
  drawOf,
  isWithin,
  judgeNumber,
  readQuestion,
  type ReadQuestion,
  readValues,
  writeAnswer,
  writeText,
} from './numbers'

const lamp: NumbersQuestion = {
  text: 'A lamp of {p} W burns {h} h a night for {d} nights. How many kWh?',
  numbers: [
    { name: 'p', low: 40, high: 100, step: 5 },
    { name: 'h', low: 6, high: 14, step: 1 },
    { name: 'd', low: 20, high: 31, step: 1 },
  ],
  formula: 'p*h*d/1000',
  unit: 'kWh',
  tolerance: { kind: 'relative', within: 0.01 },
  slips: [{ formula: 'p*h*d', name: 'thousands forgotten' }],
  worked: '{p} W for {= h*d} h are {= p*h*d} Wh.',
}
function read(question: NumbersQuestion): ReadQuestion {
  const found = readQuestion(question)
  if ('problems' in found) throw new Error(JSON.stringify(found.problems))
  return found
}
const problemsOf = (changes: Partial<NumbersQuestion>): string[] => {
  const found = readQuestion({ ...lamp, ...changes })
  return 'problems' in found ? found.problems.map(({ field, message }) => `${field}: ${message}`) : []
}

describe('a question with changed numbers', () => {
  const question = read(lamp)
  const known = {
    seed: 0,
    numbers: { p: 60, h: 10, d: 30 },
    answer: 18,
    slips: [{ name: 'thousands forgotten', value: 18_000 }],
  }

  test('the worked example: 60 W, 10 h, 30 nights are 18 kWh, and 18 000 has forgotten the thousands', () => {
    expect(question.formula.valueFor(known.numbers)).toBe(18)
    expect(judgeNumber(question, known, '18')).toEqual({ given: 18, right: true })
    expect(judgeNumber(question, known, '18,1 kWh')).toEqual({ given: 18.1, right: true })
    expect(judgeNumber(question, known, '18.2')).toEqual({ given: 18.2, right: false })
    expect(judgeNumber(question, known, '18 000')).toEqual({
      given: 18_000,
      right: false,
      slip: 'thousands forgotten',
    })
    expect(judgeNumber(question, known, '18,000')).toMatchObject({ right: true })
    expect(judgeNumber(question, known, 'a lot')).toEqual({ right: false })
    expect(writeText(question.text, known)).toBe(
      'A lamp of 60 W burns 10 h a night for 30 nights. How many kWh?',
    )
    expect(writeText(question.worked, known)).toBe('60 W for 300 h are 18000 Wh.')
    expect(writeAnswer(lamp, 18.0000001)).toBe('18 kWh')
  })

  test('the same seed draws the same, others differ', () => {
    expect(drawOf(question, 5)).toEqual(drawOf(question, 5))
    const drawn = new Set(
      Array.from({ length: 50 }, (_, seed) => JSON.stringify(drawOf(question, seed)?.numbers)),
    )
    expect(drawn.size).toBeGreaterThan(40)
  })

  test('draws keep their ranges and steps, and no slip gives the answer, whatever is asked', () => {
    const number = fc
      .record({
        low: fc.integer({ min: -500, max: 500 }),
        steps: fc.integer({ min: 0, max: 60 }),
        step: fc.constantFrom(0.001, 0.05, 0.1, 0.25, 0.3, 1, 2.5, 7),
        part: fc.constantFrom(0, 0.1, 0.25),
      })
      .map(({ low, steps, step, part }) => ({
        low: low + part,
        high: low + part + (steps + 0.3) * step,
        step,
      }))
    const tolerance: fc.Arbitrary<Tolerance> = fc.oneof(
      fc.record({ kind: fc.constant('absolute' as const), within: fc.constantFrom(0, 0.5, 3) }),
      fc.record({ kind: fc.constant('relative' as const), within: fc.constantFrom(0, 0.01, 0.2) }),
      fc.record({ kind: fc.constant('figures' as const), figures: fc.integer({ min: 1, max: 6 }) }),
    )
    const shape = fc.record({
      a: number,
      b: number,
      tolerance,
      formula: fc.constantFrom('a*b', 'a/b', 'a-b', 'sqrt(a)+b', 'a^2'),
      slip: fc.constantFrom('a+b', 'b/a', 'b-a', 'a*b/2', 'a'),
      seed: fc.integer(),
    })
    fc.assert(
      fc.property(shape, ({ a, b, formula, slip, seed, ...rest }) => {
        const numbers = [
          { name: 'a', ...a },
          { name: 'b', ...b },
        ]
        const one = readQuestion({
          text: '{a} {b}',
          numbers,
          formula,
          slips: [{ formula: slip, name: 'slip' }],
          ...rest,
        })
        if ('problems' in one) return
        const draw = drawOf(one, seed)
        if (!draw) return
        for (const { name, low, high, step } of numbers) {
          const value = draw.numbers[name]!
          expect(value).toBeGreaterThanOrEqual(low)
          expect(value).toBeLessThanOrEqual(high + 1e-9)
          const steps = (value - low) / step
          expect(Math.abs(steps - Math.round(steps))).toBeLessThan(1e-6)
        }
        expect(Number.isFinite(draw.answer)).toBe(true)
        const value = draw.slips[0]!.value
        if (Number.isFinite(value)) expect(isWithin(rest.tolerance, draw.answer, value)).toBe(false)
      }),
      { numRuns: 500 },
    )
  })

  test('200 draws tell what is wrong with it', () => {
    expect(checkQuestion(question)).toMatchObject({ draws: 200, flaws: [] })
    const divided = read({
      ...lamp,
      numbers: [{ name: 'p', low: -1, high: 1, step: 1 }, ...lamp.numbers.slice(1)],
      formula: 'h/p',
      slips: [],
      worked: '',
    })
    const { flaws } = checkQuestion(divided)
    expect(flaws[0]).toMatchObject({ message: 'the answer has no value', numbers: { p: 0 } })
    expect(flaws[0]!.draws).toBeGreaterThan(40)
    expect(drawOf(divided, 3)?.numbers.p).not.toBe(0)
    const same = read({ ...lamp, slips: [{ formula: 'h*p*d/1e3', name: 'turned round' }] })
    expect(checkQuestion(same).flaws[0]).toMatchObject({
      draws: 200,
      message: '"turned round" gives the same as the answer',
    })
    expect(drawOf(same, 1)).toBeUndefined()
  })

  test('everything that is wrong is said at its place', () => {
    expect(problemsOf({ formula: 'p*x' })).toEqual([
      'formula: nothing here is called "x"; there are p, h, d, pi, e, deg',
    ])
    expect(problemsOf({ text: '{p} and {q}', worked: '{= h +}' })).toEqual([
      'text: {q} is none of its numbers (p, h, d)',
      expect.stringContaining('worked: {= h +}: it cannot be read'),
    ])
    expect(problemsOf({ slips: [{ formula: 'import("x")', name: 'a' }] })[0]).toContain(
      'slips.0.formula: there is no function "import"',
    )
    expect(problemsOf({ numbers: [...lamp.numbers, { name: 'pi', low: 1, high: 2, step: 1 }] })[0]).toContain(
      'numbers.3.name',
    )
    expect(problemsOf({ numbers: [...lamp.numbers, { name: 'q', low: 1, high: 2, step: 3 }] })[0]).toContain(
      'numbers.3.step',
    )
    expect(
      problemsOf({ numbers: [...lamp.numbers, { name: 'q', low: 0, high: 1e6, step: 1e-6 }] })[0],
    ).toContain('too small')
    expect(problemsOf({ text: 'Of $\\frac{1}{2}$ take {p}' })).toEqual([])
  })

  test('the schema names the field', () => {
    const wrong = NumbersQuestion.safeParse({
      ...lamp,
      numbers: [{ name: '2x', low: 3, high: 1, step: 0 }, lamp.numbers[0], lamp.numbers[0]],
    })
    expect(wrong.error!.issues.map(({ path }) => path.join('.'))).toEqual(
      expect.arrayContaining(['numbers.0.name', 'numbers.0.step']),
    )
  })
})

describe('tolerance', () => {
  test('is absolute, relative, or of figures, as said', () => {
    expect(isWithin({ kind: 'absolute', within: 0.5 }, 10, 10.5)).toBe(true)
    expect(isWithin({ kind: 'absolute', within: 0.5 }, 10, 10.51)).toBe(false)
    expect(isWithin({ kind: 'absolute', within: 0 }, 0.3, 0.1 + 0.2)).toBe(true)
    expect(isWithin({ kind: 'relative', within: 0.05 }, -200, -190)).toBe(true)
    expect(isWithin({ kind: 'relative', within: 0.05 }, -200, -189)).toBe(false)
    expect(isWithin({ kind: 'relative', within: 0.05 }, 0, 0.001)).toBe(false)
    expect(isWithin({ kind: 'figures', figures: 3 }, 1234.4, 1230)).toBe(true)
    expect(isWithin({ kind: 'figures', figures: 3 }, 1236, 1230)).toBe(false)
    expect(isWithin({ kind: 'figures', figures: 2 }, 0.00123, 0.0012)).toBe(true)
    expect(isWithin({ kind: 'figures', figures: 2 }, 0, 0)).toBe(true)
  })
  test.each([
    ['1 234.5', [1234.5]],
    ['1,234.5', [1234.5]],
    ['1234,5', [1234.5]],
    ['1,234', [1234, 1.234]],
    ['1,234,567', [1_234_567]],
    ['\u22123.5e2 m', [-350]],
    ['12', [12]],
    ['', []],
    ['1.2.3', []],
    ['12 h', []],
  ])('%s is read', (text, values) => {
    expect(readValues(text, 'm')).toEqual(values)
  })
})

describe('formulas', () => {
  const value = (text: string) => {
    const formula = readFormula(text, ['a', 'b'])
    return 'problem' in formula ? formula.problem : formula.valueFor({ a: 9, b: 2 })
  }
  test.each<[string, number]>([
    ['sqrt(a)', 3],
    ['a mod 4 + b^3', 9],
    ['-b^2', -4],
    ['a > 5 and b < 3 ? 10 : 20', 10],
    ['max(a, b, 12)', 12],
    ['round(a / 7, 2)', 1.29],
    ['log(8, 2)', 3],
    ['2 a * (b + 1)', 54],
  ])('%s', (text, expected) => {
    expect(value(text)).toBeCloseTo(expected, 12)
  })
  test('angles in degrees', () => {
    expect(value('sin(30 deg) + cos(60*deg)')).toBeCloseTo(1, 12)
  })
  test.each([
    ['nothing', ' '],
    ['an import', 'import("fs")'],
    ['a program', 'evaluate("1+1")'],
    ['a parser', 'parse("1")'],
    ['an assignment', 'a = 3'],
    ['a function of its own', 'f(x) = f(x)'],
    ['several lines', 'a\nb'],
    ['a block', 'a; b'],
    ['a range', '1:100000000'],
    ['a matrix', '[1, 2; 3, 4]'],
    ['an index', 'a[1]'],
    ['a property', 'a.constructor'],
    ['a property by text', 'a["constructor"]'],
    ['the constructor', 'constructor("return 1")()'],
    ['a prototype', '__proto__'],
    ['a method of every object', 'toString()'],
    ['a function’s constructor', 'sqrt.constructor("return 1")()'],
    ['a number called like a function', 'a (b + 1)'],
    ['a function by itself', 'sqrt'],
    ['a function under another name', 'map(a, sqrt)'],
    ['an object', '{a: 1}'],
    ['a text', '"a"'],
    ['a unit', '3 cm'],
    ['a factorial', '170!'],
    ['combinations', 'combinations(1e15, 5e14)'],
    ['a transpose', "a'"],
    ['a conversion', 'a to b'],
    ['an endless number', '1e999'],
    ['no number', 'NaN'],
    ['too many parts', Array.from({ length: 150 }, () => 'a').join('+')],
    ['too deep brackets', `${'('.repeat(240)}1${')'.repeat(240)}`],
    ['too long a text', 'a'.repeat(600)],
    ['a bracket too few', '(a'],
    ['a comment alone', '# a'],
  ])('%s is refused with a message', (_, text) => {
    expect(typeof value(text)).toBe('string')
  })
  test('a hidden name is no name: what numbers inherit is not theirs', () => {
    const formula = readFormula('constructor + 1', ['constructor'])
    if ('problem' in formula) throw new Error(formula.problem)
    expect(formula.valueFor({})).toBeNaN()
    expect(formula.valueFor({ constructor: 2 } as never)).toBe(3)
  })
  test('huge powers and the like end at once, without a value', () => {
    const before = performance.now()
    for (const text of ['9^9^9^9^9^9', 'exp(exp(exp(9)))', '1/0', 'sqrt(-1)', 'log(0)', 'asin(2)'])
      expect(Number.isFinite(value(text))).toBe(false)
    expect(performance.now() - before).toBeLessThan(5000)
  })
  test('any text is either read or refused, and never thrown', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom(...'ab019.+-*/^()<>=?:,;[]{}"\'!% #_sqrtmod\n\\') }),
        (text) => {
          const found = value(text)
          expect(['number', 'string']).toContain(typeof found)
        },
      ),
      { numRuns: 2000 },
    )
  })
})
