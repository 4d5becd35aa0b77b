import { z } from 'zod'
import { open, PlainDate, Score, Slug, Source, table, TimeOfDay, Title } from './shared'

/** What scaled scores are rounded to. */
const Step = z.number().min(0.001, 'at least 0.001').max(1000, 'at most 1000')

/** Raw to scaled: `[raw, scaled]` points, linear between, clamped at the ends, rounded half up to `step`. */
export const Conversion = open({
  points: z
    .array(z.tuple([Score, Score]))
    .min(2, 'a conversion table needs two points or more')
    .max(2000, 'at most 2000 points'),
  step: Step.default(1),
}).superRefine(({ points }, context) => {
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

const Difficulty = z.enum(['flat', 'rising'])

/** Items of one kind and one marking in a section, in the paper's order. */
export const ItemGroup = open({
  id: Slug,
  kind: z.enum(['choice', 'numeric', 'written']),
  items: z.number().int().min(1, 'at least one item').max(1000, 'at most 1000 items'),
  choices: z.number().int().min(2, 'at least two options').max(26, 'at most 26 options').optional(),
  perRight: z
    .number()
    .positive('a right answer must earn something')
    .max(1000, 'at most 1000 marks')
    .describe('marks each, if written'),
  perWrong: z
    .number()
    .min(0)
    .max(1000)
    .default(0)
    .describe('what a wrong answer costs, as a positive number'),
  perBlank: Score.optional().describe('what an item left blank earns; nothing when absent'),
  difficulty: Difficulty.optional().describe('flat when absent'),
  set: open({ items: z.number().int().min(2).max(100), readingSeconds: z.number().min(0).max(3600) })
    .optional()
    .describe('items that share a stimulus, and the time to read it'),
}).superRefine((group, context) => {
  const issue = (field: string, message: string) =>
    context.addIssue({ code: 'custom', path: [field], message })
  if (group.kind === 'choice' && !group.choices) issue('choices', 'say how many options a choice item has')
  if (group.perWrong > group.perRight)
    issue('perWrong', 'a wrong answer cannot cost more than a right one earns')
  const { set, items } = group
  const over = set && set.items <= items ? items % set.items : 0
  if (set && over)
    issue(
      'set',
      `sets of ${set.items} do not make up ${items} items; ${items - over} or ${items - over + set.items} would`,
    )
  if (group.kind === 'written' && group.perWrong)
    issue('perWrong', 'written answers earn marks; a wrong one costs nothing')
  if (Math.abs(group.perBlank ?? 0) >= group.perRight)
    issue('perBlank', 'a blank must earn, or cost, less than a right answer earns')
  if (group.set && group.set.items > group.items)
    issue('set', `a set of ${group.set.items} does not fit in ${group.items} items`)
})

/** A second stage of an adaptive section: who reaches `from` raw marks in the first stage is sent here. */
export const Stage = open({
  id: Slug,
  title: Title,
  from: Score.describe('routing score; the first stage listed takes everybody below the others'),
  groups: z.array(ItemGroup).min(1).max(60),
  conversion: Conversion.describe('raw marks of both stages together to scaled'),
})

export const Section = open({
  id: Slug,
  title: Title,
  paper: Title.optional().describe('sections of one name that follow each other are one paper'),
  timed: z.boolean().optional().describe('true when absent; an untimed section states the usual minutes'),
  minutes: z.number().positive('more than 0 minutes').max(600, 'at most 600 minutes'),
  groups: z.array(ItemGroup).min(1).max(60),
  stages: z
    .array(Stage)
    .min(2, 'an adaptive section has two second stages or more')
    .max(6)
    .optional()
    .describe('makes the section adaptive: `groups` are its first stage'),
  conversion: Conversion.describe("an adaptive section's gives only the scale; its stages have the tables"),
  cut: Score.optional().describe('scaled score that the section must reach'),
  anyOrder: z
    .boolean()
    .optional()
    .describe('may change places with the other sections of its paper that say so'),
  breakAfter: z
    .number()
    .min(0)
    .max(480)
    .default(0)
    .describe('minutes; between two papers, the gap between them'),
})

export const Topic = open({
  id: Slug,
  title: Title,
  short: z
    .string()
    .trim()
    .min(1, 'write a name, or leave it out')
    .max(14, 'at most 14 characters')
    .optional()
    .describe('name where there is little room; made of the title where it is left out'),
  section: Slug,
  under: z.array(Title).max(6).optional().describe('headings that the topic stands under, outermost first'),
  share: z.number().positive('more than nothing').max(1).describe("share of its section's items"),
  hours: z.number().positive().max(500).optional().describe('hours that close 63% of what is not known'),
  prerequisites: z.array(Slug).max(60).default([]),
})

/** A book and which of its pages teach which topics; chapters may overlap, and topics stand in several. */
export const Book = open({
  id: Slug,
  title: Title,
  chapters: z
    .array(
      open({
        id: Slug,
        title: Title,
        from: z.number().int().min(1).max(20000).describe('first page'),
        to: z.number().int().min(1).max(20000).describe('last page'),
        topics: z.array(Slug).max(200).default([]),
      }).refine(({ from, to }) => to >= from, { message: 'it ends before it begins', path: ['to'] }),
    )
    .max(500),
})

/** Bytes of one picture, and of all pictures of a form. */
export const mostPictureBytes = 300_000
export const mostPicturesBytes = 1_500_000
const base64Length = (bytes: number): number => Math.ceil(bytes / 3) * 4

/** A picture that travels with its form; texts show it as `![what it shows](picture:id)`. */
export const Picture = open({
  id: Slug,
  type: z.enum(['image/png', 'image/jpeg', 'image/webp', 'image/svg+xml'], {
    error: 'a picture is a PNG, JPEG, WebP or SVG file',
  }),
  data: z
    .string()
    .max(base64Length(mostPictureBytes), `a picture may have ${mostPictureBytes / 1000} kB; make it smaller`)
    .regex(/^[A-Za-z0-9+/]*={0,2}$/, 'this is no picture as base64'),
  alt: z.string().max(500).default('').describe('what it shows, for those who do not see it'),
})

/** What several items are asked about: a passage, a table, a drawing. Markdown with formulas between dollars. */
export const Stimulus = open({
  id: Slug,
  title: z.string().max(200).optional(),
  text: z.string().min(1, 'write the text').max(20_000, 'at most 20,000 characters'),
})

/** One item of a form: its key and topic, and its text where it can be sat on a screen. */
export const FormItem = open({
  key: z.string().max(40, 'at most 40 characters').optional(),
  topic: Slug.optional(),
  text: z
    .string()
    .max(8000, 'at most 8000 characters')
    .optional()
    .describe('Markdown with formulas between dollars'),
  options: z
    .array(z.string().min(1, 'write the option').max(2000, 'at most 2000 characters'))
    .max(26, 'at most 26 options')
    .optional(),
  stimulus: Slug.optional(),
  criteria: z
    .array(
      open({
        text: z.string().min(1, 'say what earns the marks').max(500, 'at most 500 characters'),
        marks: z.number().positive('more than 0 marks').max(1000),
      }),
    )
    .max(20)
    .optional()
    .describe('of a written answer: what earns how many of its marks'),
})

/** One edition of a test. The publisher's are few and precious; other makers' often run harder. */
export const Form = open({
  id: Slug,
  title: Title,
  source: Source,
  conversions: table(Slug, Conversion, 100).default({}).describe('by section, or by second stage'),
  items: z
    .record(Slug, z.array(FormItem).max(1000))
    .refine((items) => Object.keys(items).length <= 800, 'at most 800')
    .optional()
    .describe('answer keys, topics and texts by item group, in the order of the paper'),
  stimuli: z.array(Stimulus).max(300).optional(),
  pictures: z.array(Picture).max(60).optional(),
})

export const Sitting = open({
  id: Slug,
  date: PlainDate,
  start: TimeOfDay,
  place: Title.optional(),
  registerBy: PlainDate.optional(),
  fee: open({ amount: z.number().min(0).max(1e9), currency: z.string().min(1).max(12) }).optional(),
})

export const Bring = open({ id: Slug, what: Title, must: z.boolean().default(true) })

/** Extra time and breaks that candidates can be granted. */
export const Accommodation = open({
  id: Slug,
  title: Title,
  timeFactor: z.number().min(1, 'not less than 1').max(4).describe('1.25 is a quarter more'),
  sections: table(Slug, z.number().min(1).max(4), 12).optional().describe('where a section differs'),
  breakMinutes: z.number().min(0).max(240).optional().describe('added to every break'),
})

/** A pass mark that is not known beforehand: it comes from the cohort, or from what past years asked. */
export const MovingCut = z.discriminatedUnion('kind', [
  open({
    kind: z.literal('cohort'),
    mean: Score,
    sd: z.number().positive('more than 0').max(1_000_000),
    admitted: z.number().gt(0).lt(1).describe('share of the cohort that is admitted'),
    yearly: z
      .number()
      .min(0)
      .max(1_000_000)
      .optional()
      .describe('how far the mean moves from year to year, one sd'),
  }),
  open({
    kind: z.literal('past'),
    cuts: z
      .array(open({ year: z.number().int().min(1900).max(2999), cut: Score }))
      .min(2, 'two past years or more')
      .max(60),
  }),
])

/** The item groups of a section, those of every second stage included. */
export const allGroups = (section: {
  groups: ItemGroup[]
  stages?: { groups: ItemGroup[] }[] | undefined
}): ItemGroup[] => [...section.groups, ...(section.stages ?? []).flatMap(({ groups }) => groups)]

/** An exam format by its shape alone; exam.ts adds the rules that its parts must keep among each other. */
export const ExamShape = open({
  title: Title,
  field: z.string().max(200).optional(),
  about: z.string().max(4000).optional(),
  licence: z.boolean().default(false).describe('a licence exam: the study-aid caution is shown'),
  sections: z.array(Section).min(1).max(12),
  topics: z.array(Topic).min(1).max(500),
  composite: open({
    kind: z.enum(['sum', 'mean', 'weighted', 'table']),
    weights: table(Slug, z.number().min(0).max(1000), 12).optional(),
    table: Conversion.optional().describe('from the weighted sum of the sections to the composite'),
    step: Step.default(1),
    cut: Score.optional(),
  }),
  movingCut: MovingCut.optional(),
  bands: z
    .array(open({ title: Title, from: Score }))
    .max(40)
    .optional(),
  percentiles: z
    .array(z.tuple([Score, z.number().min(0).max(100)]))
    .min(2)
    .max(400)
    .optional()
    .describe('[composite, per cent of candidates below it], rising'),
  forms: z.array(Form).max(200).default([]),
  sittings: z.array(Sitting).max(60).default([]),
  retake: open({
    waitDays: z.number().int().min(0).max(3660),
    perYear: z.number().int().min(1).max(366).optional(),
  }).optional(),
  bring: z.array(Bring).max(200, 'at most 200').default([]),
  tools: z
    .array(z.string().min(1).max(200))
    .max(200, 'at most 200')
    .optional()
    .describe('tools that are permitted'),
  accommodations: z.array(Accommodation).max(20).optional(),
  books: z.array(Book).max(40).optional(),
  forbidden: z.array(z.string().min(1).max(200)).max(200, 'at most 200').default([]),
})

export type Conversion = z.infer<typeof Conversion>
export type ItemGroup = z.infer<typeof ItemGroup>
export type Stage = z.infer<typeof Stage>
export type Section = z.infer<typeof Section>
export type Book = z.infer<typeof Book>
export type Accommodation = z.infer<typeof Accommodation>
export type MovingCut = z.infer<typeof MovingCut>
export type Topic = z.infer<typeof Topic>
export type Form = z.infer<typeof Form>
export type FormItem = z.infer<typeof FormItem>
export type Stimulus = z.infer<typeof Stimulus>
export type Picture = z.infer<typeof Picture>
export type Sitting = z.infer<typeof Sitting>
export type ExamShape = z.infer<typeof ExamShape>
