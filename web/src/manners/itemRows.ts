import { type Counts, type ExamFormat, type ItemGroup, roomOfSection, type Section } from '@climber/contract'
import { stageTaken } from '@climber/core'

/** What counts of a part of a test have to add up to. */
export interface CountsRoom {
  /** Items marked right or wrong; of a group of written answers, those that there are. */
  items: number
  /** Fewest items, where ways through a section differ in length. */
  least?: number
  /** Most marks of written answers, 0 where there are none. */
  marks: number
  /** Written answers only. */
  written: boolean
}
export interface CountsLine {
  id: string
  title: string
  room: CountsRoom
}

const lineOf = (group: ItemGroup, title: string): CountsLine => {
  const written = group.kind === 'written'
  const marks = written ? group.items * group.perRight : 0
  return { id: group.id, title, room: { items: group.items, marks, written } }
}

/**
 * One row for each item group that a candidate with these counts meets, named after its section. The second stage of an
 * adaptive section joins once the first stage is counted.
 */
export const itemRows = (exam: ExamFormat, counts: Record<string, Counts>): CountsLine[] =>
  exam.sections.flatMap((section) => {
    const stage = stageTaken(section, counts)
    const named = (groups: ItemGroup[], title: string) =>
      groups.map((group, at) => lineOf(group, groups.length > 1 ? `${title}, part ${at + 1}` : title))
    return [
      ...named(section.groups, section.stages ? `${section.title}, first stage` : section.title),
      ...(stage ? named(stage.groups, stage.title) : []),
    ]
  })

function roomOf(section: Section): CountsRoom {
  const { least, most, marks } = roomOfSection(section)
  return { items: most, least, marks, written: most === 0 }
}
/** A row for each section. */
export const sectionRows = (exam: ExamFormat): CountsLine[] =>
  exam.sections.map((section) => ({ id: section.id, title: section.title, room: roomOf(section) }))

/** One row for the whole test. */
export function totalRow(exam: ExamFormat): CountsLine {
  const rooms = exam.sections.map(roomOf)
  const sum = (of: (room: CountsRoom) => number) => rooms.reduce((all, room) => all + of(room), 0)
  return {
    id: 'total',
    title: 'In all',
    room: {
      items: sum(({ items }) => items),
      least: sum(({ least }) => least!),
      marks: sum(({ marks }) => marks),
      written: rooms.every(({ written }) => written),
    },
  }
}

/** A row for each topic, of which any number of items may have been counted. */
export const topicRows = (exam: ExamFormat): CountsLine[] =>
  exam.topics.map(({ id, title, section }) => {
    const { items } = sectionRows(exam).find((one) => one.id === section)!.room
    return { id, title, room: { items: Math.max(1, items), least: 0, marks: 0, written: false } }
  })
