import { gap, levers, overview, whereYouStand, explore, previewPlan,  } from '@climber/core'
import { parts, type Target } from '@climber/contract'
import { randomExam } from './learners/exams'
import { beginning, firstMoment } from './learners/life'
import { own } from './learners/own'
import { numbers } from './shared/numbers'
const bad = (x: unknown, path = ''): string | undefined => {
  if (typeof x === 'number') return Number.isFinite(x) ? undefined : path + '=' + x
  if (x && typeof x === 'object') for (const [k, v] of Object.entries(x)) { const b = bad(v, path + '.' + k); if (b) return b }
  return undefined
}
let n = 0, odd = 0
const worst: string[] = []
const from = Number(process.env['FROM'] ?? 1)
for (let seed = from; seed < from + 60; seed++) {
  const random = numbers(seed * 31 + 7)
  let exam = randomExam(seed)
  if (random() < 0.3) exam = { ...exam, composite: { kind: 'weighted', step: 1, weights: Object.fromEntries(exam.sections.map(({ id }, at) => [id, at ? 0 : 1])) } }
  if (random() < 0.2) exam = { ...exam, movingCut: { kind: 'years', cuts: [1, 2, 3, 4, 5].map((y) => ({ year: 2020 + y, cut: 40 + y })) } } as never
  if (random() < 0.2) exam = { ...exam, topics: exam.topics.filter((t, at, all) => all.findIndex((o) => o.section === t.section) === at).map((t) => ({ ...t, share: 1 })) }
  const { record, exam: own2 } = beginning(own(), exam, seed, 0.3)
  const target: Target = random() < 0.25 ? { kind: 'cut' } : random() < 0.3 ? { kind: 'moving' } : random() < 0.3 ? { kind: 'places', open: 2, places: [1, 2, 3].map((i) => ({ id: `p${i}`, title: `Place ${i}`, asks: 30 * i, ...(i === 2 && { weights: Object.fromEntries(own2.sections.map(({ id }) => [id, 1])) }) })) } : record.target
  const r = { ...record, target, ...(random() < 0.2 && { attempts: [] }), ...(random() < 0.15 && { availability: parts.availability.parse({ windows: [] }) }), settings: parts.settings.parse({ ...(random() < 0.2 && { schools: { counts: 'points' } }) }) }
  try {
    for (const [name, f] of Object.entries({ overview: () => overview(r as never, firstMoment), gap: () => gap(r as never, firstMoment), gap0: () => gap(r as never, firstMoment, 0), gap9: () => gap(r as never, firstMoment, 5000), stand: () => whereYouStand(r as never, firstMoment), levers: () => levers(r as never, firstMoment) })) {
      const b = bad(f())
      if (b) { console.log(seed, name, b, JSON.stringify(target)); odd++ }
      n++
    }
    if (target.kind === 'number') {
      const { low, high } = overview(r as never, firstMoment).range
      const odds = Array.from({ length: 12 }, (_, at) => explore(r as never, firstMoment, { scaled: Math.round(low + ((high - low) * at) / 11) })?.odds ?? 0)
      odds.forEach((o, at) => at && o > odds[at - 1]! + 1e-9 && worst.push(`${seed}: +${(100 * (o - odds[at - 1]!)).toFixed(1)}`))
    }

    let made; try { made = previewPlan(r as never, firstMoment, 1) } catch (e) { made = undefined }
  } catch (e) { console.log(seed, 'THREW', (e as Error).stack?.split('\n').slice(0, 4).join(' | '), JSON.stringify(target)); odd++ }
}
console.log('asked', n, 'odd', odd, 'rises', worst.join('; '))
