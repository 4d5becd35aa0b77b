import { z } from 'zod'
import { open, PlainDate, Title, Weekday, Window, Zone } from './shared'

/** A public holiday: a day with a name. */
export const Holiday = open({ date: PlainDate, title: Title })
export type Holiday = z.infer<typeof Holiday>

/** When the candidate is free to study. Windows of one day must not overlap. */
export const Availability = open({
  zone: Zone.default('Etc/UTC'),
  windows: z
    .array(
      z.intersection(
        open({
          weekday: Weekday,
          light: z.boolean().optional().describe('a commute or the like: only light work'),
        }),
        Window,
      ),
    )
    .max(200)
    .default([]),
  exceptions: z
    .array(open({ date: PlainDate, windows: z.array(Window).max(20) }))
    .max(1000)
    .default([]),
  daysOff: z.array(PlainDate).max(1000).default([]),
  holidays: z
    .array(Holiday.extend({ work: z.boolean().optional().describe('agreed to be worked on') }))
    .max(500)
    .optional()
    .describe('public holidays: nothing is planned on one that is not agreed to'),
  minutesPerDay: z.number().int().min(15, 'at least 15 minutes').max(900, 'at most 900 minutes').default(240),
  daysPerWeek: z.number().int().min(1, 'at least one day').max(7, 'a week has 7 days').default(6),
  minutesPerWeek: z
    .number()
    .int()
    .min(15, 'at least 15 minutes')
    .max(6300, 'at most 6300 minutes')
    .optional()
    .describe('no cap on the week when absent'),
  nights: z.boolean().default(false).describe('sessions between 23:00 and 06:00 are allowed'),
  keepWarm: z
    .boolean()
    .optional()
    .describe('a quarter of an hour on days that hold nothing else and have the time'),
  best: Window.optional().describe('the hours of the day in which new and hard work goes best'),
}).superRefine((availability, context) => {
  const overlap = (windows: Window[], path: (string | number)[]) => {
    const sorted = [...windows].sort((a, b) => a.from.localeCompare(b.from))
    sorted.forEach((window, at) => {
      const before = sorted[at - 1]
      if (before && window.from < before.to)
        context.addIssue({
          code: 'custom',
          path,
          message: `${window.from} starts before ${before.to}, where the window before it ends`,
        })
    })
  }
  for (let weekday = 1; weekday <= 7; weekday++)
    overlap(
      availability.windows.filter((window) => window.weekday === weekday),
      ['windows'],
    )
  availability.exceptions.forEach((exception, row) =>
    overlap(exception.windows, ['exceptions', row, 'windows']),
  )
})

export type Availability = z.infer<typeof Availability>
