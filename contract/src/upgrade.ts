import { diagnosticId } from './attempt'

/**
 * Climber files, and stored records, of version 1 become version 2. Plain JSON in and out, checked afterwards by the schemas of
 * version 2; keys that neither version knows are carried along. `came` says for each attempt where it stood, so that a
 * problem can be told at the place in the file that was read.
 */
type Json = Record<string, unknown>
type Path = (string | number)[]

const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const listOf = (value: unknown): unknown[] => (Array.isArray(value) ? value : [])
const without = (object: Json, ...keys: string[]): Json =>
  Object.fromEntries(Object.entries(object).filter(([key]) => !keys.includes(key)))
const defined = (object: Json): Json =>
  Object.fromEntries(Object.entries(object).filter(([, value]) => value !== undefined))

export interface Upgraded {
  file: unknown
  /** Where each attempt stood in the file of version 1, by its place in the list. */
  came: Path[]
}

/** The diagnosis of version 1 as ratings, and as the attempts that it held. */
export function diagnosisToAttempts(diagnosis: unknown): { ratings: Json; attempts: Json[]; came: Path[] } {
  if (!isObject(diagnosis)) return { ratings: {}, attempts: [], came: [] }
  const topics = isObject(diagnosis['topics']) ? diagnosis['topics'] : {}
  const entries = Object.entries(topics).flatMap(([id, topic]) =>
    isObject(topic) ? [[id, topic] as const] : [],
  )
  const pick = (key: string) =>
    Object.fromEntries(entries.flatMap(([id, topic]) => (topic[key] === undefined ? [] : [[id, topic[key]]])))
  const rest = without(
    diagnosis,
    'date',
    'form',
    'sections',
    'topics',
    'responses',
    'earlier',
    'halfWeightDays',
  )
  const more = Object.fromEntries(
    entries.flatMap(([id, topic]) => {
      const own = without(topic, 'counts', 'rating')
      return Object.keys(own).length ? [[id, own]] : []
    }),
  )
  const ratings = defined({
    topics: pick('rating'),
    halfWeightDays: diagnosis['halfWeightDays'],
    ...(Object.keys(more).length && { moreOfTopics: more }),
    ...rest,
  })
  const own = {
    id: diagnosticId,
    kind: 'diagnostic',
    ...defined({ date: diagnosis['date'], form: diagnosis['form'] }),
    counts: { groups: diagnosis['sections'] ?? {}, topics: pick('counts') },
    ...defined({ items: diagnosis['responses'] }),
  }
  const held = [own.counts.groups, own.counts.topics].some(
    (counts) => isObject(counts) && Object.keys(counts).length,
  )
  const earlier = listOf(diagnosis['earlier']).map((test): Json =>
    isObject(test)
      ? {
          ...without(test, 'sections', 'topics', 'responses'),
          kind: 'earlier',
          counts: { groups: test['sections'] ?? {}, topics: test['topics'] ?? {} },
          ...defined({ items: test['responses'] }),
        }
      : { kind: 'earlier', id: test },
  )
  const stood = held || ['responses', 'date', 'form'].some((key) => diagnosis[key] !== undefined)
  return {
    ratings,
    attempts: [...earlier, ...(stood ? [own] : [])],
    came: [...earlier.map((_, row) => ['diagnosis', 'earlier', row]), ...(stood ? [['diagnosis']] : [])],
  }
}

/** A logged practice test of version 1 as an attempt. */
export const testToAttempt = (test: unknown): Json =>
  isObject(test)
    ? {
        ...without(test, 'counts', 'responses'),
        kind: 'practice',
        counts: { groups: test['counts'], topics: {} },
        ...defined({ items: test['responses'] }),
      }
    : { kind: 'practice', id: test }

/** The pace drills of version 1, each as an attempt of its own. */
export const drillToAttempt = (round: unknown): Json =>
  isObject(round)
    ? {
        ...without(round, 'section', 'group', 'items'),
        kind: 'drill',
        scope: { sections: [round['section']], groups: [round['group']] },
        items: listOf(round['items']).map((item, at) =>
          isObject(item) ? { item: at + 1, ...item } : { item: item },
        ),
      }
    : { kind: 'drill', id: round }

/** Before a schema has had its say a file may hold anything, and none of it may cost more than its length. */
const longestSentence = 4000
/** More than a plan may have are left as they are, and refused afterwards. */
const mostSessions = 5000
/** Tests of a plan that are sat in parts. */
const mostParted = 400
const lateSentence =
  /\s*It starts at \d\d:\d\d: (no free time that day holds the whole test[^.]*|there was no other place left)\./
const splitSentence = /\s*Split over two days:[^.]*\./
const wholeMinutes = /holds the whole (\d+) minutes/
const daysApart = (a: unknown, b: unknown): number =>
  Math.abs(Date.parse(`${String(a)}T00:00:00Z`) - Date.parse(`${String(b)}T00:00:00Z`)) / 86_400_000
/** Parts of one split test lie less than so many days apart; the same form sat twice lies further. */
const splitWithin = 17

const lightPurpose = (id: string, said: string): string =>
  id.startsWith('light.pace-card')
    ? 'pace card'
    : id.startsWith('light.last')
      ? 'last days'
      : said.includes('nothing else on it')
        ? 'warm'
        : 'cards'
const errandPurpose = (id: string): string | undefined =>
  ['register', 'journey', 'visit', 'kit'].find((purpose) => id.startsWith(`errand.${purpose}`))

/** A session of version 1, whose facts stood in a sentence and in figures, among the others of its plan. */
export function sessionFrom1(session: unknown, all: unknown[]): unknown {
  if (!isObject(session) || typeof session['kind'] !== 'string') return session
  // Of version 2 already.
  if (!('why' in session) && !('title' in session)) return session
  const { kind } = session
  const why = isObject(session['why']) ? session['why'] : {}
  const text = typeof why['text'] === 'string' ? why['text'].slice(0, longestSentence) : ''
  const figures = isObject(why['figures']) ? why['figures'] : {}
  const id = String(session['id'])
  const rest = without(session, 'title', 'why', 'topics', 'seen', 'sections', 'form', 'of', 'material')
  const words = (said: string) => defined({ label: session['title'], said: said || undefined })
  const { topics, material, form, of } = session
  const linked = defined({ form, of })
  switch (kind) {
    case 'learn':
    case 'drill':
    case 'mixed':
      return { ...rest, ...defined({ topics, material }), reason: figures, ...words(text) }
    case 'test': {
      const sections = listOf(session['sections'])
      const partner = sections.length
        ? all.find(
            (other): other is Json =>
              isObject(other) &&
              other['kind'] === 'test' &&
              other['id'] !== session['id'] &&
              other['form'] === form &&
              listOf(other['sections']).length > 0 &&
              !listOf(other['sections']).some((one) => sections.includes(one)) &&
              daysApart(other['date'], session['date']) < splitWithin,
          )
        : undefined
      const isLate = lateSentence.test(text)
      const hour = sections.length ? 'split' : isLate ? 'late' : undefined
      return {
        ...rest,
        ...defined({ form, seen: session['seen'], hour }),
        ...(partner && {
          split: {
            number: String(session['date']) <= String(partner['date']) ? 1 : 2,
            of: 2,
            other: partner['id'],
            sections,
            wholeMinutes:
              Number(wholeMinutes.exec(text)?.[1] ?? 0) ||
              Number(session['minutes']) + Number(partner['minutes']),
          },
        }),
        ...words(text.replace(lateSentence, '').replace(splitSentence, '')),
      }
    }
    case 'review':
      return {
        ...rest,
        ...linked,
        ...defined({ wholeMinutes: figures['reviewMinutes'], ratio: figures['ratio'] }),
        ...words(text),
      }
    case 'retest':
      return { ...rest, ...linked, ...defined({ daysSince: figures['daysSince'] }), ...words(text) }
    case 'light':
      return { ...rest, ...defined({ topics }), purpose: lightPurpose(id, text), ...words(text) }
    case 'errand':
      return { ...rest, ...defined({ purpose: errandPurpose(id) }), ...words(text) }
    default:
      return session
  }
}

/** Which stretches of a plan are rehearsals was told by their names, or by those of the candidate's own stages. */
function phaseFrom1(phase: unknown, stages: unknown[]): unknown {
  if (!isObject(phase)) return phase
  const { name } = phase
  const own = stages.some((stage) => isObject(stage) && stage['rehearsal'] === true && stage['name'] === name)
  const usual = !stages.length && (name === 'Rehearse' || name === 'Sprint')
  return own || usual ? { ...phase, rehearsal: true } : phase
}

/** A plan of version 1; `settings` are the candidate's, which name their own stages. */
export function planFrom1(plan: unknown, settings: unknown): unknown {
  if (!isObject(plan)) return plan
  const sessions = listOf(plan['sessions'])
  if (sessions.length > mostSessions) return plan
  const waiting = plan['unplaced']
  const stages = isObject(settings) ? listOf(settings['stages']).slice(0, 8) : []
  const parted = sessions
    .filter((one) => isObject(one) && listOf(one['sections']).length > 0)
    .slice(0, mostParted)
  return {
    ...plan,
    ...(Array.isArray(plan['phases']) && {
      phases: plan['phases'].map((phase) => phaseFrom1(phase, stages)),
    }),
    ...(Array.isArray(waiting) && { unplaced: waiting.map((one) => sessionFrom1(one, [])) }),
    ...(Array.isArray(plan['sessions']) && { sessions: sessions.map((one) => sessionFrom1(one, parted)) }),
  }
}

/** A Climber file of any version as one of version 2; what is no file of version 1 is left as it is. */
export function upgrade(file: unknown): Upgraded {
  if (!isObject(file) || file['climber'] !== 1) return { file, came: [] }
  const { ratings, attempts, came } = diagnosisToAttempts(file['diagnosis'])
  const tests = listOf(file['tests'])
  const drills = isObject(file['drills']) ? file['drills'] : {}
  const rounds = listOf(drills['rounds'])
  const all = [...attempts, ...tests.map(testToAttempt), ...rounds.map(drillToAttempt)]
  return {
    file: {
      ...without(file, 'diagnosis', 'tests', 'drills'),
      climber: 2,
      ...(file['diagnosis'] !== undefined && { ratings }),
      ...(file['plan'] !== undefined && { plan: planFrom1(file['plan'], file['settings']) }),
      ...(all.length && { attempts: all }),
    },
    came: [
      ...came,
      ...tests.map((_, row) => ['tests', row]),
      ...rounds.map((_, row) => ['drills', 'rounds', row]),
    ],
  }
}

const renamed: Record<string, Record<string, Path>> = {
  tests: { groups: ['counts'], items: ['responses'] },
  drills: { items: ['items'] },
  diagnosis: { groups: ['sections'], topics: ['topics'], items: ['responses'] },
}

/** Where a problem of the upgraded file stands in the one that was read. */
export function pathIn1(path: Path, came: Path[]): Path {
  const [part, row, ...inside] = path
  if (part === 'ratings') return ['diagnosis', ...path.slice(1)]
  const from = part === 'attempts' && typeof row === 'number' ? came[row] : undefined
  if (!from) return path
  const names = renamed[String(from[0])] ?? {}
  const [first, second, ...deeper] = inside
  if (first === 'counts' && typeof second === 'string')
    return [...from, ...(names[second] ?? [second]), ...deeper]
  if (first === 'items') return [...from, ...(names['items'] ?? []), ...inside.slice(1)]
  return [...from, ...inside]
}
