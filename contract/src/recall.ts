import { z } from 'zod'
import { open } from './shared'

const Value = z.number('write a number').min(-1e12, 'at least -1e12').max(1e12, 'at most 1e12')
const FormulaText = z.string().trim().min(1, 'write a formula').max(500, 'at most 500 characters')

/** What a number of a question is called in its text and formulas. */
const NumberName = z
  .string()
  .regex(/^[a-z][a-z0-9_]{0,19}$/i, 'begin with a letter; letters, digits and _ only, at most 20')

/** A number that is drawn anew each time: from low to high in steps. */
const DrawnNumber = open({
  name: NumberName,
  low: Value,
  high: Value,
  step: z.number('write a number').gt(0, 'more than 0').max(1e12, 'at most 1e12'),
}).refine(({ low, high }) => low <= high, { path: ['high'], message: 'not less than the lowest' })

/** How far an answer may be off and still be right. */
const Tolerance = z.discriminatedUnion('kind', [
  open({ kind: z.literal('absolute'), within: z.number().min(0, 'not negative').max(1e12) }),
  open({
    kind: z.literal('relative'),
    within: z.number().min(0, 'not negative').max(1, 'at most 1, which is 100%'),
  }),
  open({
    kind: z.literal('figures'),
    figures: z.number().int('a whole number').min(1, 'at least 1').max(12, 'at most 12'),
  }),
])

/** A wrong formula that stands for a common slip, whose value names it. */
const Slip = open({
  formula: FormulaText,
  name: z.string().trim().min(1, 'name the slip').max(120, 'at most 120 characters'),
})

/** A question whose numbers change: the text names them in braces, and may show what a formula comes to as `{= p * h}`. */
export const NumbersQuestion = open({
  text: z.string().trim().min(1, 'write the question').max(4000, 'at most 4000 characters'),
  numbers: z
    .array(DrawnNumber)
    .min(1, 'name a number that changes')
    .max(20, 'at most 20 numbers')
    .refine((numbers) => new Set(numbers.map(({ name }) => name)).size === numbers.length, {
      message: 'two numbers have the same name',
    }),
  formula: FormulaText,
  unit: z.string().trim().max(20, 'at most 20 characters').optional(),
  tolerance: Tolerance,
  slips: z.array(Slip).max(10, 'at most 10 slips').optional(),
  worked: z.string().max(4000, 'at most 4000 characters').optional().describe('shown after the answer'),
})

export type DrawnNumber = z.infer<typeof DrawnNumber>
export type Tolerance = z.infer<typeof Tolerance>
export type Slip = z.infer<typeof Slip>
export type NumbersQuestion = z.infer<typeof NumbersQuestion>
