import { randomUUID } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { ClimberFile, type RoomDeed, type RoomSetup } from '@climber/contract'
import { startBare, startClimber } from './shared/servers'
import { table } from './table'

// 200 tests at once against one server: how long until a press is confirmed, beside a bare route with one insert, same run. A
// person presses about once in twenty seconds; here each room presses once in four seconds, and then once a second.
const rooms = Number(process.env.CLIMBER_ROOMS ?? 200)
const seconds = Number(process.env.CLIMBER_SECONDS ?? 30)

const from = (name: string) => import(path.join(process.cwd(), 'scripts', name))
const { startDatabase } = await from('database.mjs')
const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-bench-db-'))
const database = await startDatabase(folder)

/** Somebody signed in, at an address of their own. */
class Person {
  private readonly cookies = new Map<string, string>()
  private csrf = ''
  constructor(
    private readonly base: string,
    private readonly number: number,
  ) {}
  async send(method: string, address: string, body?: unknown): Promise<number> {
    const response = await fetch(this.base + address, {
      method,
      headers: {
        cookie: [...this.cookies.values()].join('; '),
        'x-csrf-token': this.csrf,
        'content-type': 'application/json',
        'x-forwarded-for': `2001:db8:${this.number.toString(16)}::1`,
      },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    })
    for (const set of response.headers.getSetCookie())
      this.cookies.set(set.split('=')[0]!, set.split(';')[0]!)
    const said = (await response.json()) as { csrf?: string }
    if (said.csrf) this.csrf = said.csrf
    return response.status
  }
  async good(method: string, address: string, body?: unknown): Promise<void> {
    const status = await this.send(method, address, body)
    if (status !== 200) throw new Error(`${method} ${address} answered ${status}`)
  }
}

/** One press after another at its own moments, whether or not the one before is answered. Milliseconds until each answer. */
async function load(every: number, press: (room: number) => Promise<number>) {
  const waits: number[] = []
  let failed = 0
  const begun = performance.now()
  const pending: Promise<void>[] = []
  await new Promise<void>((resolve) => {
    const one = async (room: number) => {
      const at = performance.now()
      const status = await press(room).catch(() => 0)
      waits.push(performance.now() - at)
      if (status !== 200) failed += 1
    }
    const again = (room: number) => {
      if (performance.now() - begun > seconds * 1000) return
      pending.push(one(room))
      setTimeout(() => again(room), every * (0.5 + Math.random()))
    }
    for (let room = 0; room < rooms; room++) setTimeout(() => again(room), Math.random() * every)
    setTimeout(resolve, seconds * 1000 + every * 2)
  })
  await Promise.all(pending)
  waits.sort((a, b) => a - b)
  const at = (share: number) => waits[Math.min(waits.length - 1, Math.floor(share * waits.length))]!
  return { presses: waits.length, failed, median: at(0.5), p99: at(0.99), most: at(1) }
}

const climber = await startClimber(database.url, {
  CLIMBER_PROXY: '1',
  CLIMBER_SAMPLES: path.join(process.cwd(), 'demo'),
})
const bare = await startBare(database.url)

const file = ClimberFile.parse(JSON.parse(readFileSync('demo/tidal-pilotage.exam.climber.json', 'utf8')))
const people: { person: Person; at: string; life: string; n: number }[] = []
for (let number = 0; number < rooms; number++) {
  const person = new Person(climber.url, number)
  const [exam, candidate, room] = [randomUUID(), randomUUID(), randomUUID()]
  await person.good('GET', '/api/session')
  const email = `${randomUUID()}@mail.example`
  await person.good('POST', '/api/sign-up', { email, password: 'long enough for anyone', name: 'Somebody' })
  await person.good('PUT', `/api/exams/${exam}`, { file })
  await person.good('PUT', `/api/candidates/${candidate}`, { name: 'Somebody', examId: exam, self: true })
  const setup: RoomSetup = {
    id: room,
    date: new Date().toISOString().slice(0, 10),
    start: '09:00',
    form: 'board-2',
    whole: true,
    medium: 'screen',
    pressing: 'items',
    strict: true,
    sound: false,
    seen: false,
    parts: file.exam!.sections.map(({ id, minutes }) => ({
      id,
      seconds: minutes * 60,
      timed: true,
      breakSeconds: 0,
    })),
  }
  const at = `/api/candidates/${candidate}/rooms/${room}`
  await person.good('PUT', at, { setup })
  people.push({ person, at, life: randomUUID(), n: 0 })
}
const stamp = (own: (typeof people)[number], deed: RoomDeed) => ({
  ...deed,
  n: own.n++,
  life: own.life,
  at: Math.round(performance.now()),
  wall: Date.now(),
})
const note = (own: (typeof people)[number], deed: RoomDeed) =>
  own.person.send('POST', `${own.at}/events`, {
    life: own.life,
    device: 'a computer',
    take: false,
    events: [stamp(own, deed)],
  })
for (const own of people) {
  await note(own, { kind: 'enter', device: 'a computer' })
  await note(own, { kind: 'begin' })
}

const rows: (string | number)[][] = []
for (const every of [4000, 1000]) {
  const noted = await load(every, (room) => {
    const own = people[room]!
    return note(own, { kind: 'answer', item: 1 + (own.n % 40), answer: 'ABCD'[own.n % 4]! })
  })
  const plain = await load(every, async (room) => {
    const own = people[room]!
    const body = stamp(own, { kind: 'answer', item: 1 + (own.n % 40), answer: 'ABCD'[own.n % 4]! })
    const headers = { 'content-type': 'application/json' }
    const answer = await fetch(`${bare.url}/note`, { method: 'POST', headers, body: JSON.stringify(body) })
    await answer.json()
    return answer.status
  })
  for (const [what, one] of [
    ['a press in a room', noted],
    ['a bare route, one insert', plain],
  ] as const)
    rows.push([
      `${every / 1000} s`,
      what,
      one.presses,
      one.failed,
      one.median.toFixed(1),
      one.p99.toFixed(1),
      one.most.toFixed(0),
    ])
}
table(
  `${rooms} rooms at once for ${seconds} s, milliseconds until a press is confirmed`,
  ['a press every', 'what', 'presses', 'failed', 'median', 'p99', 'most'],
  rows,
)
for (const { child } of [climber, bare]) {
  const gone = new Promise((resolve) => child.once('exit', resolve))
  child.kill('SIGTERM')
  await gone
}
await database.stop()
rmSync(folder, { recursive: true, force: true })
