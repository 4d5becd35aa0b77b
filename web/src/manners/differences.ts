import equal from 'fast-deep-equal'
import { dateWords, weekdayName } from './words'

/** Something in which two versions of a document differ, in words. */
export interface Difference {
  what: string
  theirs: string
  mine: string
}

type Thing = Record<string, unknown>
const isThing = (value: unknown): value is Thing =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const hasId = (value: unknown): value is Thing & { id: string } =>
  isThing(value) && typeof value['id'] === 'string'

/** Words for fields whose name is none. */
const names: Record<string, string> = {
  scaled: 'score wanted',
  windows: 'free times',
  daysOff: 'days off',
  halfWeightDays: 'half the weight after, days',
  perRight: 'marks each',
  perWrong: 'a wrong one costs',
}
const nameOf = (key: string, titles: ReadonlyMap<string, string>): string =>
  titles.get(key) ??
  names[key] ??
  // A title of its own is left as it is.
  (/^[a-z][\w-]*$/.test(key)
    ? key
        .replace(/([a-z])([A-Z])/g, '$1 $2')
        .replace(/-/g, ' ')
        .toLowerCase()
    : key)

function said(value: unknown, titles: ReadonlyMap<string, string>): string {
  if (value === undefined || value === null || value === '') return 'nothing'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'string')
    return titles.get(value) ?? (/^\d{4}-\d\d-\d\d$/.test(value) ? dateWords(value) : value)
  if (Array.isArray(value)) return value.map((one) => said(one, titles)).join(', ') || 'nothing'
  if (!isThing(value)) return String(value)
  const { weekday, title, name, from, to, ...rest } = value
  const own = [title ?? name, typeof weekday === 'number' ? weekdayName(weekday).slice(0, 3) : undefined]
  const span =
    from !== undefined && to !== undefined ? `${said(from, titles)} to ${said(to, titles)}` : undefined
  const others = Object.entries(rest)
    .filter(([key, one]) => key !== 'id' && one !== false && one !== undefined && !isThing(one))
    .map(([key, one]) => (one === true ? nameOf(key, titles) : `${nameOf(key, titles)} ${said(one, titles)}`))
  return [...own, span, ...others].filter((part) => part !== undefined).join(' ')
}

/** Entries of one list that the other has not. */
const missing = (list: unknown[], other: unknown[]): unknown[] =>
  list.filter((one) => !other.some((two) => equal(one, two)))

/**
 * In what two versions of a document differ, field by field; lists by what only one of them has. `titles` are the words for ids that
 * stand in them: topics, sections, sittings.
 */
export function differences(
  theirs: unknown,
  mine: unknown,
  titles: ReadonlyMap<string, string> = new Map(),
): Difference[] {
  const found: Difference[] = []
  const tell = (path: string[], a: unknown, b: unknown) =>
    found.push({
      what: path.map((key) => nameOf(key, titles)).join(', ') || 'all of it',
      theirs: said(a, titles),
      mine: said(b, titles),
    })
  const walk = (path: string[], a: unknown, b: unknown): void => {
    if (equal(a, b)) return
    if (Array.isArray(a) && Array.isArray(b)) {
      if ([...a, ...b].every(hasId)) return walk(path, byId(a), byId(b))
      return void tell(path, missing(a, b), missing(b, a))
    }
    if (!isThing(a) || !isThing(b)) return void tell(path, a, b)
    for (const key of new Set([...Object.keys(a), ...Object.keys(b)]))
      if (key !== 'id' && key !== 'version') walk([...path, titleIn(a, b, key)], a[key], b[key])
  }
  walk([], theirs, mine)
  return found
}
const byId = (list: (Thing & { id: string })[]): Thing => Object.fromEntries(list.map((one) => [one.id, one]))
/** What something in a list is called, where it has a title of its own. */
function titleIn(a: Thing, b: Thing, key: string): string {
  const one = a[key] ?? b[key]
  return isThing(one) && typeof one['title'] === 'string' && one['title'] ? one['title'] : key
}
