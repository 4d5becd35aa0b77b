import type {
  ExamFormat,
  Form,
  ItemGroup,
  ItemSet,
  RoomPart,
  RoomSetup,
  Section,
  Stage,
} from '@climber/contract'
import { groupOf, secondsOfSet, shareOfSet } from '../exam/set'

/** One item of what is sat, numbered from 1 through all of it, as it will be in the attempt. */
export interface RoomItem {
  item: number
  group: ItemGroup
  /** Place in its group, from 0; of a set, in the set. */
  at: number
  topic?: string
}
/** A stretch with a bell of its own: a section of the exam, or a set of items. */
export interface PartOfRoom extends RoomPart {
  title: string
  section?: Section
  /** Its items from number `first` on; of an adaptive section those of its first stage. */
  items(first: number): RoomItem[]
}

const listed = (groups: ItemGroup[], first: number, form?: Form): RoomItem[] => {
  let item = first
  return groups.flatMap((group) =>
    Array.from({ length: group.items }, (_, at) => {
      const topic = form?.items?.[group.id]?.[at]?.topic
      return { item: item++, group, at, ...(topic && { topic }) }
    }),
  )
}

/** Items of the second stage of an adaptive section, from number `first` on. */
export const itemsOfStage = (stage: Stage, first: number, form?: Form): RoomItem[] =>
  listed(stage.groups, first, form)

/** The one section that a set is, with a group for the items of each topic. */
function sectionOfSet(exam: ExamFormat, set: ItemSet): { section: Section; topics: string[] } | undefined {
  const found = shareOfSet(exam, set).flatMap(({ topic, items }) => {
    const own = groupOf(exam, topic)
    return own && items > 0 ? [{ topic, own, items }] : []
  })
  const [first] = found
  if (!first) return undefined
  const { stages: _, ...section } = first.own.section
  const groups = found.map(({ topic, own, items }) => {
    const { set: _set, ...group } = own.group
    return { ...group, id: `set-${topic}`, items }
  })
  return {
    section: { ...section, id: 'set', title: 'Set of items', groups },
    topics: found.map(({ topic }) => topic),
  }
}

/** The exam with nothing but what is sat of it: what the items of a room are numbered through. */
export function examOfRoom(exam: ExamFormat, { set, parts }: Pick<RoomSetup, 'set' | 'parts'>): ExamFormat {
  const ids = new Set(parts.map(({ id }) => id))
  const section = set && sectionOfSet(exam, set)?.section
  return { ...exam, sections: section ? [section] : exam.sections.filter(({ id }) => ids.has(id)) }
}

/**
 * The parts of a test as they are granted, for what was chosen of it: sections in the exam's order, or one set. `exam` is the exam
 * as this candidate sits it and `timeFactor` what still applies to its sections (exam/accommodation.ts).
 */
export function partsGranted(
  exam: ExamFormat,
  timeFactor: number,
  chosen: { sections: string[] } | { set: ItemSet },
): RoomPart[] {
  if ('set' in chosen)
    return [{ id: 'set', seconds: secondsOfSet(exam, chosen.set, timeFactor), timed: true, breakSeconds: 0 }]
  const sections = exam.sections.filter(({ id }) => chosen.sections.includes(id))
  return sections.map(({ id, minutes, timed, breakAfter }, at) => ({
    id,
    seconds: Math.round(minutes * 60 * timeFactor),
    timed: timed !== false,
    breakSeconds: at === sections.length - 1 ? 0 : Math.round(breakAfter * 60),
  }))
}

/** The parts of a room with their items. A part whose section the exam does not have is left out. */
export function partsOf(
  exam: ExamFormat,
  { parts, set }: Pick<RoomSetup, 'parts' | 'set'>,
  form?: Form,
): PartOfRoom[] {
  const own = set && sectionOfSet(exam, set)
  if (own)
    return parts.map((part) => ({
      ...part,
      title: own.section.title,
      section: own.section,
      items: (first) =>
        own.section.groups
          .flatMap((group, place) =>
            listed([group], 1).map((item) => ({ ...item, topic: own.topics[place]! })),
          )
          .map((item, place) => ({ ...item, item: first + place })),
    }))
  return parts.flatMap((part): PartOfRoom[] => {
    const section = exam.sections.find(({ id }) => id === part.id)
    return section
      ? [{ ...part, title: section.title, section, items: (first) => listed(section.groups, first, form) }]
      : []
  })
}
