import { z } from 'zod'
import { PlainDate, Slug, TimeOfDay, Title } from './shared'

/** What scaled scores are rounded to. */
const Step = z.number().min(0.001, 'at least 0.001').max(1000, 'at most 1000')

/** Raw to scaled: `[raw, scaled]` points, linear between, clamped at the ends, rounded half up to `step`. */
export const Conversion = z
  .object({
    points: z.array(z.tuple([z.number(), z.number()])).min(2, 'a conversion table needs two points or more'),
    step: Step.default(1),
  })
  .superRefine(({ points }, context) => {
    points.forEach(([raw, scaled], row) => {
      const before = points[row - 1]
      if (!before) return
      if (raw <= before[0])
        context.addIssue({
          code: 'custom',
          path: ['points', row, 0],
          message: `raw scores must rise: ${raw} comes after ${before[0]}`,
        })
      if (scaled < before[1])
        context.addIssue({
          code: 'custom',
          path: ['points', row, 1],
          message: `scaled scores must not fall: ${scaled} comes after ${before[1]}`,
        })
    })
  })

/** Items of one kind and one marking in a section. */
export const ItemGroup = z
  .object({
    id: Slug,
    kind: z.enum(['choice', 'numeric']),
    items: z.number().int().min(1).max(1000),
    choices: z.number().int().min(2).max(26).optional(),
    perRight: z.number().positive(),
    perWrong: z.number().min(0).default(0).describe('what a wrong answer costs, as a positive number'),
  })
  .superRefine((group, context) => {
    if (group.kind === 'choice' && !group.choices)
      context.addIssue({
        code: 'custom',
        path: ['choices'],
        message: 'say how many options a choice item has',
      })
    if (group.perWrong > group.perRight)
      context.addIssue({
        code: 'custom',
        path: ['perWrong'],
        message: 'a wrong answer cannot cost more than a right one earns',
      })
  })

export const Section = z.object({
  id: Slug,
  title: Title,
  minutes: z.number().positive().max(600),
  groups: z.array(ItemGroup).min(1),
  conversion: Conversion,
  cut: z.number().optional().describe('scaled score that the section must reach'),
  breakAfter: z.number().min(0).max(480).default(0).describe('minutes'),
})

export const Topic = z.object({
  id: Slug,
  title: Title,
  section: Slug,
  share: z.number().positive().max(1).describe("share of its section's items"),
  hours: z.number().positive().max(500).optional().describe('hours that close 63% of what is not known'),
  prerequisites: z.array(Slug).default([]),
})

/** One edition of a test. The publisher's are few and precious; other makers' often run harder. */
export const Form = z.object({
  id: Slug,
  title: Title,
  source: z.enum(['publisher', 'other']),
  conversions: z.record(Slug, Conversion).default({}),
})

export const Sitting = z.object({
  id: Slug,
  date: PlainDate,
  start: TimeOfDay,
  place: Title.optional(),
  registerBy: PlainDate.optional(),
  fee: z.object({ amount: z.number().min(0), currency: z.string().min(1).max(12) }).optional(),
})

export const Bring = z.object({ id: Slug, what: Title, must: z.boolean().default(true) })

const duplicate = (ids: string[]): number => ids.findIndex((id, index) => ids.indexOf(id) !== index)

/** A prerequisite chain that comes back to where it began, or nothing. */
export function prerequisiteCycle(topics: { id: string; prerequisites: string[] }[]): string[] | undefined {
  const byId = new Map(topics.map((topic) => [topic.id, topic]))
  const cleared = new Set<string>()
  const walk = (id: string, trail: string[]): string[] | undefined => {
    const seen = trail.indexOf(id)
    if (seen >= 0) return [...trail.slice(seen), id]
    if (cleared.has(id)) return undefined
    for (const next of byId.get(id)?.prerequisites ?? []) {
      const found = walk(next, [...trail, id])
      if (found) return found
    }
    cleared.add(id)
    return undefined
  }
  for (const { id } of topics) {
    const found = walk(id, [])
    if (found) return found
  }
  return undefined
}

export const ExamFormat = z
  .looseObject({
    title: Title,
    field: z.string().max(200).optional(),
    about: z.string().max(4000).optional(),
    licence: z.boolean().default(false).describe('a licence exam: the study-aid caution is shown'),
    sections: z.array(Section).min(1).max(12),
    topics: z.array(Topic).min(1).max(500),
    composite: z.object({
      kind: z.enum(['sum', 'mean', 'weighted']),
      weights: z.record(Slug, z.number().min(0)).optional(),
      step: Step.default(1),
      cut: z.number().optional(),
    }),
    forms: z.array(Form).max(200).default([]),
    sittings: z.array(Sitting).max(60).default([]),
    retake: z
      .object({ waitDays: z.number().int().min(0), perYear: z.number().int().min(1).optional() })
      .optional(),
    bring: z.array(Bring).default([]),
    forbidden: z.array(z.string().min(1).max(200)).default([]),
  })
  .superRefine((exam, context) => {
    const issue = (path: (string | number)[], message: string) =>
      context.addIssue({ code: 'custom', path, message })
    const unique = (key: 'sections' | 'topics' | 'forms' | 'sittings' | 'bring') => {
      const twice = duplicate(exam[key].map(({ id }) => id))
      if (twice >= 0) issue([key, twice, 'id'], `the id ${exam[key][twice]!.id} is used twice`)
    }
    ;(['sections', 'topics', 'forms', 'sittings', 'bring'] as const).forEach(unique)
    const groups = exam.sections.flatMap(({ groups }) => groups.map(({ id }) => id))
    if (duplicate(groups) >= 0)
      issue(['sections'], `the item group id ${groups[duplicate(groups)]} is used twice`)
    const sections = new Set(exam.sections.map(({ id }) => id))
    const topics = new Set(exam.topics.map(({ id }) => id))
    exam.topics.forEach((topic, row) => {
      if (!sections.has(topic.section))
        issue(['topics', row, 'section'], `no section has the id ${topic.section}`)
      topic.prerequisites.forEach((id, at) => {
        if (!topics.has(id)) issue(['topics', row, 'prerequisites', at], `no topic has the id ${id}`)
      })
    })
    const cycle = prerequisiteCycle(exam.topics)
    if (cycle) issue(['topics'], `prerequisites go in a circle: ${cycle.join(' -> ')}`)
    exam.sections.forEach((section, row) => {
      const shares = exam.topics.filter((topic) => topic.section === section.id).map(({ share }) => share)
      const sum = shares.reduce((a, b) => a + b, 0)
      if (!shares.length) issue(['sections', row], `no topic belongs to the section ${section.id}`)
      else if (Math.abs(sum - 1) > 0.005)
        issue(
          ['sections', row],
          `the shares of the topics of ${section.id} add up to ${Math.round(sum * 1000) / 10}%, not 100%`,
        )
    })
    exam.forms.forEach((form, row) =>
      Object.keys(form.conversions).forEach((id) => {
        if (!sections.has(id)) issue(['forms', row, 'conversions', id], `no section has the id ${id}`)
      }),
    )
    if (exam.composite.kind === 'weighted')
      exam.sections.forEach(({ id }) => {
        if (exam.composite.weights?.[id] === undefined)
          issue(['composite', 'weights', id], `the section ${id} has no weight`)
      })
  })

export type Conversion = z.infer<typeof Conversion>
export type ItemGroup = z.infer<typeof ItemGroup>
export type Section = z.infer<typeof Section>
export type Topic = z.infer<typeof Topic>
export type Form = z.infer<typeof Form>
export type Sitting = z.infer<typeof Sitting>
export type ExamFormat = z.infer<typeof ExamFormat>
