import { randomUUID } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import pino from 'pino'
import { QueryTypes } from 'sequelize'
import { type Card, ClimberFile, type RecallAnswer } from '@climber/contract'
import { Clock } from '../server/src/clock'
import { connect, migrate } from '../server/src/database'
import { signUp } from '../server/src/services/account'
import { importFile } from '../server/src/services/file'
import { answerCards, readRecall } from '../server/src/services/recall'
import { table } from './table'

// A deck of 20,000 cards with three answers each: brought in a file, read whole, and answered, beside bare selects of its rows.
const { startDatabase } = await import(path.join(process.cwd(), 'scripts/database.mjs'))
const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-bench-db-'))
const server = await startDatabase(folder)
const database = connect(server.url, pino({ level: 'silent' }))
await migrate(database)
const context = { ...database, clock: new Clock('2030-01-15T16:00:00Z'), demo: false }
const user = await signUp(context, { email: 'one@mail.example', password: 'long enough', name: 'One' })

const cards = Array.from({ length: 20_000 }, (_, at): Card => ({
  kind: 'card',
  id: randomUUID(),
  front: `What is shown by light ${at} of the roads, seen from the north?`,
  back: `Group flashing ${at % 7}, every ${5 + (at % 11)} seconds`,
}))
const answerTo = (card: string, day: number): RecallAnswer => ({
  id: randomUUID(),
  card,
  on: `2030-01-${String(day).padStart(2, '0')}`,
  at: `2030-01-${String(day).padStart(2, '0')}T08:00:00.000Z`,
  grade: 3,
  seconds: 6,
})
const exam = ClimberFile.parse(
  JSON.parse(readFileSync(path.join(process.cwd(), 'demo', 'tidal-pilotage.exam.climber.json'), 'utf8')),
)
const file = {
  ...exam,
  candidate: { name: 'Ottil Marran', note: '' },
  recall: { cards, answers: cards.flatMap(({ id }) => [1, 4, 11].map((day) => answerTo(id, day))) },
}
const rows: (string | number)[][] = []
const begun = performance.now()
const candidate = await importFile(
  context,
  user.id,
  randomUUID(),
  { file, written: { ...file } },
  { self: true },
)
rows.push(['brought in a file, once', ((performance.now() - begun) / 1000).toFixed(1) + ' s', ''])

async function timed(name: string, runs: number, work: () => Promise<unknown>): Promise<void> {
  const times: number[] = []
  for (let run = 0; run < runs; run++) {
    const from = performance.now()
    await work()
    times.push(performance.now() - from)
  }
  times.sort((a, b) => a - b)
  const at = (share: number) => `${times[Math.floor(share * (runs - 1))]!.toFixed(0)} ms`
  rows.push([name, at(0.5), at(0.95)])
}
const select = () =>
  database.sequelize.query('SELECT * FROM recall_cards WHERE candidate_id = :id', {
    replacements: { id: candidate.id },
    type: QueryTypes.SELECT,
  })
await timed('a bare select of its cards', 40, select)
await timed('three of them', 40, async () => {
  for (let one = 0; one < 3; one++) await select()
})
await timed('read whole, with what was answered', 40, () => readRecall(context, candidate))
await timed('an answer', 40, () => answerCards(context, candidate, [answerTo(cards[7]!.id, 15)]))
await timed('500 answers', 10, () =>
  answerCards(
    context,
    candidate,
    cards.slice(0, 500).map(({ id }) => answerTo(id, 15)),
  ),
)
table('A deck of 20,000 cards and 60,000 answers', ['what', 'median', 'p95'], rows)
await database.sequelize.close()
await server.stop()
rmSync(folder, { recursive: true })
