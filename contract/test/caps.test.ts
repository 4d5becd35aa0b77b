import type { z } from 'zod'
import { ClimberFileShape, ItemResponse, parts, routes } from '../src'

type Def = { type: string; checks?: { _zod: { def: Record<string, unknown> } }[] } & Record<string, unknown>
const defOf = (schema: unknown): Def => (schema as { _zod: { def: Def } })._zod.def
const childrenOf = (def: Def): [string, unknown][] => {
  const { type } = def
  if (type === 'object') return Object.entries(def['shape'] as object)
  if (type === 'array') return [['*', def['element']]]
  if (type === 'record')
    return [
      ['key', def['keyType']],
      ['*', def['valueType']],
    ]
  if (type === 'union') return (def['options'] as unknown[]).map((option, at) => [`|${at}`, option])
  if (type === 'intersection')
    return [
      ['&', def['left']],
      ['&', def['right']],
    ]
  if (type === 'tuple') return (def['items'] as unknown[]).map((item, at) => [String(at), item])
  if (type === 'pipe') return [['in', def['in']]]
  if (def['innerType']) return [['', def['innerType']]]
  return []
}

/** What of a schema takes as much as anybody cares to send. */
function unbounded(schema: unknown, path = ''): string[] {
  const def = defOf(schema)
  const checks = (def.checks ?? []).map((check) => check._zod.def)
  const has = (...names: string[]) => checks.some((check) => names.includes(String(check['check'])))
  const own =
    (def.type === 'string' && !has('max_length', 'length_equals') && !closed(schema)) ||
    (def.type === 'array' && !has('max_length', 'length_equals')) ||
    (def.type === 'record' && !has('max_size', 'custom')) ||
    (def.type === 'number' && !(has('less_than') && has('greater_than')))
  return [
    ...(own ? [`${path} (${def.type})`] : []),
    ...childrenOf(def).flatMap(([name, child]) => unbounded(child, name ? `${path}.${name}` : path)),
  ]
}
/** A text that only a few values pass, such as a time zone: a long one does not. */
const closed = (schema: unknown): boolean => !(schema as z.ZodType).safeParse('a'.repeat(10_000)).success

it('nothing that comes in is without a bound: texts, lists, records and numbers', () => {
  const open = [
    ...unbounded(ClimberFileShape, 'file'),
    ...Object.entries(parts).flatMap(([name, part]) => unbounded(part, name)),
    ...Object.entries(routes).flatMap(([name, { params, body }]) => [
      ...unbounded(params, `${name}.params`),
      ...unbounded(body, `${name}.body`),
    ]),
    ...unbounded(ItemResponse, 'item'),
  ]
  expect([...new Set(open)]).toEqual([])
})
