import { durationWords } from '../../manners/words'

/** A week as it is handed to somebody. */
export interface WeekSheet {
  /** Such as `Mon 9 Mar`. */
  begins: string
  minutes: number
  phase?: string | undefined
  days: {
    /** Such as `Tue 10 Mar`. */
    day: string
    /** Start and place where the exam is on that day. */
    exam?: string | undefined
    sessions: { start: string; end: string; kind: string; title: string; material?: string | undefined }[]
  }[]
}

/** Weeks as plain text, for a letter or a message: days that have something, a line a session, its material below it. */
export const weeksAsText = (who: string, weeks: readonly WeekSheet[]): string =>
  weeks
    .map(({ begins, minutes, phase, days }) =>
      [
        `${who}, week of ${begins}: ${durationWords(minutes)}${phase ? ` (${phase})` : ''}`,
        ...days.flatMap(({ day, exam, sessions }) =>
          exam || sessions.length
            ? [
                '',
                day,
                ...(exam ? [`  ${exam}`] : []),
                ...sessions.flatMap(({ start, end, kind, title, material }) => [
                  `  ${start} to ${end}  ${kind}: ${title}`,
                  ...(material ? [`      ${material}`] : []),
                ]),
              ]
            : [],
        ),
      ].join('\n'),
    )
    .join('\n\n\n') + '\n'
