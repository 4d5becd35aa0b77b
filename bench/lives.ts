import { dayNumber, type Deed, deedsOf, isActive, previewPlan, replan, withPlan } from '@climber/core'
import { faultsOf, Life, type Week } from '../core/test/lives'
import { anyone } from './learners/anyone'
import { kinds } from './learners/kinds'
import { firstMoment, sits } from './learners/life'
import { after, scoreOf } from './learners/score'
import { error, mean } from './shared/means'
import { numbers } from './shared/numbers'
import { table } from './table'

/**
 * Lives of twelve weeks, mended every Monday: sessions slip or are half done, somebody falls ill, takes on something new, sits papers early
 * or late, has bad and good days, sees the sitting moved or wants another score. After six and twelve weeks the mended plan is held against
 * one made anew there and then, both kept from there on. PEOPLE of each kind; KIND takes one.
 */
const people = Number(process.env['PEOPLE'] ?? 300)
const only = process.env['KIND']
const from = Number(process.env['FROM'] ?? 1)
/** Without a look for faults, and made anew after six weeks only: for trying things out. */
const quick = process.env['QUICK'] !== undefined
const weeks = quick ? 6 : 12
const looks = quick ? [6] : [6, weeks]
/** Weeks from the first plan to the exam. */
const ahead = 15

const rows: (string | number)[][] = []
const seen = new Map<string, number>()
let shown = 0 // faults told in words
for (const [name, kind] of kinds) {
  if (only && !name.startsWith(only)) continue
  const behind = new Map(looks.map((week) => [week, [] as number[]]))
  const hours = new Map(looks.map((week) => [week, [] as number[]]))
  let mends = 0
  let faulty = 0
  let [moved, changed, added, dropped] = [0, 0, 0, 0]
  for (let seed = from; seed < from + people; seed++) {
    const some = anyone(kind, seed, ahead)
    const { exam } = some
    const random = numbers((seed * 48271) % 2147483647)
    const start =
      seed % 2
        ? some.record
        : { ...some.record, target: { ...some.record.target, kind: 'number' as const, scaled: 60 } }
    const made = previewPlan(start, firstMoment, 1)
    if (!made) continue
    const deeds: Deed[] = []
    const life = new Life(withPlan(start, made.plan), dayNumber(firstMoment.date), {
      random,
      works: (session, minutes, day) =>
        deeds.push(...deedsOf(exam, [session]).map((deed) => ({ ...deed, day, minutes }))),
      sits: (day, mood) => {
        const person = after(some, deeds)
        return sits(person, exam, day, random, mood)
      },
    })
    for (let week = 1; week <= weeks; week++) {
      const lived: Week | undefined = life.week()
      if (!lived) break
      for (const what of lived.happened) seen.set(what, (seen.get(what) ?? 0) + 1)
      const { found, record, now } = lived
      mends++
      moved += found.diff.moved.length
      changed += found.diff.changed.length
      added += found.diff.added.length
      dropped += found.diff.dropped.length
      const faults = quick ? [] : faultsOf(lived)
      if (faults.length) {
        faulty++
        if (shown++ < 12)
          console.log(
            `${name} ${seed}, week ${week} (${lived.happened.join(' ')}): ${faults.slice(0, 3).join('; ')}`,
          )
      }
      const list = behind.get(week)
      if (!list) continue
      const anew = replan(record, now, 1, { kind: 'none' }, 'anew')!
      const day = dayNumber(record.exam.sittings[0]!.date)
      const ahead = (plan: typeof found.plan) =>
        deedsOf(
          exam,
          plan.sessions.filter((one) => isActive(one) && one.status !== 'done' && one.date >= now.date),
        )
      const [mended, fresh] = [ahead(found.plan), ahead(anew.plan)]
      const sum = (all: Deed[]) => all.reduce((total, { minutes }) => total + minutes / 60, 0)
      list.push(scoreOf(some, [...deeds, ...fresh], day) - scoreOf(some, [...deeds, ...mended], day))
      hours.get(week)!.push(sum(fresh) - sum(mended))
    }
  }
  const told = (list: number[] = []) => `${mean(list).toFixed(2)} ± ${error(list).toFixed(2)}`
  rows.push([
    name,
    mends,
    faulty,
    ...looks.flatMap((week) => [told(behind.get(week)), mean(hours.get(week) ?? []).toFixed(1)]),
    ...[moved, changed, added, dropped].map((count) => (count / mends).toFixed(1)),
  ])
}
table(
  `Mended every Monday (${people} lives of each kind): made anew ahead by, in hundredths of the marks`,
  [
    'kind',
    'mends',
    'with a fault',
    ...looks.flatMap((week) => [`after ${week} weeks`, 'hours more']),
    'moved',
    'changed',
    'added',
    'dropped',
  ],
  rows,
)
console.log([...seen].map(([what, times]) => `${what} ${times}`).join(', '))
