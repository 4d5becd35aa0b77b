import { randomUUID } from 'node:crypto'
import { Agent, get } from 'node:http'
import { connect } from 'node:net'
import { type Candidate, routes } from '@climber/contract'
import type { Database } from '../../src/database'
import { candidateFile, databaseUrl, freshDatabase, practiceTest, sample } from '../harness'
import { ending, requestsOf, routeNames } from './bodies'
import { calendarServer, endless, randomCalendar } from './calendars'
import { garbled, mutated } from './mutate'
import { mostBeyond, mostWaited, watchStalls } from './stalls'
import { type Answered, cases, Dice, seed, Server, Visitor, wasClosed } from './world'

/** The built server with its threads, and who means it harm. All the while its health is watched from another process. */
let database: Database
let server: Server
let owner: Visitor
let other: Visitor
let candidate: Candidate
let calendars: Awaited<ReturnType<typeof calendarServer>>
let atRest: number
let ended: (() => ReturnType<ReturnType<typeof watchStalls>>) | undefined
const dice = new Dice(seed)

beforeAll(async () => {
  database = await freshDatabase()
  // Each visitor has an address of their own, as behind a proxy.
  server = await Server.start(databaseUrl(), { CLIMBER_PROXY: '1' })
  calendars = await calendarServer()
  owner = await Visitor.signedUp(server.url)
  candidate = await owner.candidate()
  other = await Visitor.signedUp(server.url)
  // At rest is after a day's ordinary work: code is compiled, and what is kept at hand is there.
  for (let at = 0; at < 12; at++) await ordinaryWork()
  atRest = server.memory
  ended = watchStalls(server, databaseUrl())
})
afterAll(async () => {
  calendars.close()
  await server.end()
  await database.sequelize.close()
})

const read = (address: string, visitor = owner) =>
  visitor.send('POST', `/api/candidates/${candidate.id}/commitments/read`, { address })
const tally = (answers: Answered[]) => {
  const found: Record<number, number> = {}
  for (const { status } of answers) found[status] = (found[status] ?? 0) + 1
  return found
}
/** Reading calendars is limited for each account; here it is somebody else's turn often. */
const freshReader = async () => {
  const visitor = await Visitor.signedUp(server.url)
  const { id } = await visitor.candidate()
  return (address: string) => visitor.send('POST', `/api/candidates/${id}/commitments/read`, { address })
}

/** Somebody new, who reads what there is of a record a few times. */
async function ordinaryWork(): Promise<void> {
  const person = await Visitor.signedUp(server.url)
  const { id } = await person.candidate()
  for (let round = 0; round < 8; round++)
    for (const rest of ['', '/file', '/plan.ics']) await person.send('GET', `/api/candidates/${id}${rest}`)
}

/** A connection on which somebody says this. */
const connected = (said: string) => {
  const socket = connect(Number(new URL(server.url).port), '127.0.0.1', () => socket.write(said))
  socket.on('error', () => undefined)
  return socket
}

describe('another server', () => {
  it.each([
    'http://[',
    'http://',
    '//',
    'javascript:alert(1)',
    'file:///etc/passwd',
    'http://exa mple/',
    `http://${'a'.repeat(300)}.example/`,
    'http://127.0.0.1:1/',
    '',
  ])('that sends on to "%s" ends nothing', async (location) => {
    const answer = await read(`${calendars.at}/?location=${encodeURIComponent(location)}`)
    expect(answer.status).toBe(422)
    expect(answer.body.field).toMatch(/address|line/)
    expect(server.alive).toBe(true)
  })
  it('that breaks off, never ends, speaks no HTTP or answers what is no status ends nothing', async () => {
    const again = `${calendars.at}/?location=${encodeURIComponent('/?location=%2F')}`
    for (const address of [
      `${calendars.at}/cut`,
      `${calendars.at}/large`,
      `${calendars.at}/status?is=500`,
      `${calendars.at}/status?is=304`,
      `${calendars.at}/status?is=999`,
      calendars.raw,
      again,
      `${calendars.at}/nothing-there`,
      'http://nowhere.invalid/',
    ])
      expect((await read(address)).status).toBe(422)
    expect(server.alive).toBe(true)
  })
})

describe('a calendar', () => {
  it.each(Object.keys(endless))('with %s is refused or read, in time', async (name) => {
    const reads = await freshReader()
    const begun = performance.now()
    const [answer, meanwhile] = await Promise.all([
      reads(calendars.serve(endless[name]!)),
      other.send('GET', '/api/candidates'),
    ])
    expect([200, 422]).toContain(answer.status)
    expect(meanwhile.status).toBe(200)
    // The longest that a thread has, and room for a slow machine to start one.
    expect(performance.now() - begun).toBeLessThan(60_000)
  })
  it('with rules put together at random is refused or read', async () => {
    let reads = await freshReader()
    for (let at = 0; at < cases(0.05); at++) {
      if (at % 50 === 49) reads = await freshReader()
      const text = randomCalendar(dice)
      const sent = dice.chance(0.3)
        ? garbled(text, dice, ['BEGIN:VEVENT\r\n', 'RRULE:', ';', '\u0000', '\r\n'])
        : text
      const { status } = await reads(calendars.serve(sent))
      if (![200, 422].includes(status)) throw new Error(`${status} for\n${sent}`)
    }
    expect(server.alive).toBe(true)
  }, 3_600_000)
})

describe('bodies', () => {
  it(`changed at random, on every route, are done or refused (seed ${seed})`, async () => {
    const nobody = new Visitor(server.url)
    await nobody.good('GET', '/api/session')
    const wrong: string[] = []
    const mutable = routeNames.filter((name) => !ending.includes(name) && name !== 'readCommitments')
    const found: Record<number, number> = {}
    const side = 3
    const onOneSide = async (lot: Dice) => {
      let person = await Visitor.signedUp(server.url)
      let own = await person.candidate()
      for (let at = 0; at < cases(0.7) / side; at++) {
        if (at % 400 === 399) {
          person = await Visitor.signedUp(server.url)
          own = await person.candidate()
        }
        const name = lot.of(mutable)
        const { method, path, body } = requestsOf(own, calendars.at)(name)
        const sent = body && mutated(body, lot)
        const text =
          sent && lot.chance(0.05)
            ? garbled(JSON.stringify(sent), lot, ['"', '{', '\\ud800', '\u0000', '1e999', '[[[['])
            : sent
        const address = lot.chance(0.05) ? garbled(path, lot, ['%', '%E0%A4%A', '/', '..', '%00', '?']) : path
        const rooted = address.startsWith('/') ? address : `/${address}`
        const headers: Record<string, string> = lot.chance(0.03)
          ? lot.of<Record<string, string>>([
              { 'content-type': 'text/html' },
              { 'content-type': 'application/json; charset=none' },
              { 'content-encoding': 'br' },
              { 'x-csrf-token': 'guessed' },
            ])
          : {}
        // Whoever signs up or in is somebody else afterwards.
        const asker = routes[name].right === 'anyone' ? nobody : person
        const ask = () => asker.send(method, rooted, text, headers)
        // A server that is gone does not answer the second time either.
        const again = (error: unknown) => (wasClosed(error) ? ask() : Promise.reject(error as Error))
        const answer = await ask()
          .catch(again)
          .catch((error: unknown) => {
            wrong.push(`${name}: ${String(error)}`)
          })
        if (!answer) continue
        found[answer.status] = (found[answer.status] ?? 0) + 1
        // As it arrives: `/api/..` leads out of the API.
        const { pathname } = new URL(server.url + rooted)
        const told = answer.status < 400 || !pathname.startsWith('/api/') || answer.body?.code
        if (answer.status >= 500 || !told)
          wrong.push(
            `${name} ${address} answered ${answer.status}: ${JSON.stringify(text ?? null).slice(0, 400)}`,
          )
      }
    }
    await Promise.all(Array.from({ length: side }, (_, at) => onOneSide(new Dice(seed + 1000 * at))))
    console.log('bodies changed at random were answered', found)
    expect(wrong).toEqual([])
  }, 3_600_000)

  it('of whole files, changed at random, are taken or refused; what was taken can be read, planned and simulated', async () => {
    let person = await Visitor.signedUp(server.url)
    const { id } = await person.candidate()
    const whole = await person.good<object>('GET', `/api/candidates/${id}/file`)
    const wrong: string[] = []
    let taken = 0
    for (let at = 0; at < cases(0.1); at++) {
      if (at % 300 === 299) person = await Visitor.signedUp(server.url)
      // Each by itself: number so and so of a seed is the same however many there are.
      const file = mutated(whole, new Dice(seed + 7919 * at))
      const own = randomUUID()
      const surely = async (method: string, rest: string, body?: object) => {
        const answer = await person.send(method, `/api/candidates/${own}${rest}`, body)
        const fine = method === 'GET' ? answer.status === 200 : [200, 409, 422].includes(answer.status)
        if (!fine)
          wrong.push(`${method} ${rest} of number ${at}: ${answer.status} ${answer.text.slice(0, 200)}`)
        return answer as Answered & { body: { plan?: { version: number } | null } }
      }
      if ((await surely('PUT', '/file', { file })).status !== 200) continue
      taken += 1
      for (const rest of ['/file', '/plan.ics']) await surely('GET', rest)
      const version = (await surely('GET', '')).body.plan?.version ?? 0
      await surely('PUT', '/plan', { version, seed: 1 })
      await surely('PUT', '/plan/replan', {
        version: version + 1,
        seed: 1,
        change: { kind: 'off', from: '2030-01-21', to: '2030-01-22' },
        mode: 'mend',
      })
      const simulation = { section: 'streams', sittings: 100, seed: 1, asOf: 'exam' }
      await surely('PUT', `/simulations/${randomUUID()}`, simulation)
      expect((await person.send('GET', '/api/candidates')).status).toBe(200)
      await person.good('DELETE', `/api/candidates/${own}`, {})
    }
    console.log(`${taken} changed files of ${cases(0.1)} were taken, read, planned and simulated`)
    expect(wrong).toEqual([])
    expect(taken).toBeGreaterThan(0)
  }, 3_600_000)
})

describe('one account that asks for all there is', () => {
  it('60 simulations are four, and the rest is refused; another’s record opens meanwhile', async () => {
    const run = (at: number) =>
      owner.send('PUT', `/api/candidates/${candidate.id}/simulations/${randomUUID()}`, {
        section: 'signals',
        sittings: 20_000,
        seed: at,
        asOf: 'exam',
      })
    const all = Promise.all(Array.from({ length: 60 }, (_, at) => run(at)))
    expect((await other.send('GET', '/api/candidates')).status).toBe(200)
    // One is worked out while three wait; on a slow machine one is done before the last have come.
    const { 200: done = 0, 429: refused = 0, ...others } = tally(await all)
    expect(others).toEqual({})
    expect(done).toBeGreaterThanOrEqual(4)
    expect(refused).toBeGreaterThan(40)
  })
  it('a comparison that nobody waits for any more is broken off and not kept', async () => {
    const id = randomUUID()
    const patience = new AbortController()
    const asked = owner
      .send(
        'PUT',
        `/api/candidates/${candidate.id}/simulations/${id}`,
        {
          section: 'signals',
          sittings: 100_000,
          seed: 1,
          asOf: 'exam',
        },
        {},
        patience.signal,
      )
      .catch(() => 'broken off')
    setTimeout(() => patience.abort(), 300)
    expect(await asked).toBe('broken off')
    await new Promise((resolve) => setTimeout(resolve, 1500))
    const kept = await owner.good<{ id: string }[]>('GET', `/api/candidates/${candidate.id}/simulations`)
    expect(kept.map((one) => one.id)).not.toContain(id)
  })
  it('5 MB of keys that nobody knows, many times, are refused', async () => {
    const junk = Object.fromEntries(Array.from({ length: 40_000 }, (_, at) => [`k${at}`, 'x'.repeat(100)]))
    const text = JSON.stringify({ file: { ...candidateFile(), junk } })
    const answers = await Promise.all(
      Array.from({ length: 24 }, () => owner.send('PUT', `/api/candidates/${randomUUID()}/file`, text)),
    )
    expect(Object.keys(tally(answers)).every((status) => status === '422' || status === '429')).toBe(true)
  })
  it('large bodies before signing in are not read', async () => {
    const nobody = new Visitor(server.url)
    await nobody.good('GET', '/api/session')
    const text = JSON.stringify({ email: 'x@mail.example', more: 'y'.repeat(4_000_000) })
    const answers = await Promise.all(
      ['/api/sign-in', '/api/sign-up', '/api/join', `/api/candidates/${candidate.id}/file`].map((path) =>
        nobody
          .send(path.endsWith('file') ? 'PUT' : 'POST', path, text)
          .catch(() => ({ status: 422 }) as Answered),
      ),
    )
    for (const { status } of answers) expect([401, 422]).toContain(status)
  })
  it.each([
    ['things to bring', 'bring', (at: number) => ({ id: `b${at}`, what: 'x', must: true })],
    ['topics', 'topics', (at: number) => ({ id: `t${at}`, title: 'x', section: 'streams', share: 0.1 })],
    ['sittings', 'sittings', (at: number) => ({ id: `s${at}`, date: '2030-05-01', start: '09:00' })],
    ['forms', 'forms', (at: number) => ({ id: `f${at}`, title: 'x', source: 'other' })],
  ])('as many %s as fit are refused as fast as they are read', async (_what, key, make) => {
    const exam = { ...sample().exam, [key]: Array.from({ length: 50_000 }, (_, at) => make(at)) }
    const { status } = await owner.send('PUT', `/api/exams/${randomUUID()}`, { file: { climber: 2, exam } })
    expect(status).toBe(422)
  })
  it('a file of version 1 with sessions without number is refused as fast', async () => {
    const session = (at: number) => ({
      id: `s${at}`,
      kind: 'test',
      why: { text: ' '.repeat(20) },
      sections: ['a'],
    })
    const file = {
      climber: 1,
      exam: sample().exam,
      plan: { sessions: Array.from({ length: 40_000 }, (_, at) => session(at)) },
    }
    expect((await owner.send('PUT', `/api/candidates/${randomUUID()}/file`, { file })).status).toBe(422)
  })
})

describe('after all of it', () => {
  it(`health was never ${mostBeyond} ms slower than a bare server on its database, and always well`, () => {
    const { looks, worst, waited, noise, down } = ended!()
    console.log(
      `health: ${looks} looks, beyond the noise of ${noise.toFixed(0)} ms at worst ${worst.toFixed(0)} ms of work, ${waited.toFixed(0)} ms in all`,
    )
    expect(down).toBe(0)
    expect(looks).toBeGreaterThan(100)
    // A look at health takes more turns than one at a bare server: through the server, its database and back.
    expect(worst).toBeLessThan(mostBeyond + 2 * noise)
    expect(waited).toBeLessThan(mostWaited + 2 * noise)
  })
  it('memory is back within 50 MB', async () => {
    // A thread that has nothing to do collects nothing: what it no longer needs goes as ordinary work goes on, or where that does
    // not do, with pauses in which V8 makes its heap smaller.
    let now = server.memory
    for (let round = 0; now > atRest + 50 && round < 60; round++) {
      await ordinaryWork()
      await new Promise((resolve) => setTimeout(resolve, round < 20 ? 500 : 10_000))
      now = server.memory
    }
    console.log(`memory: ${atRest.toFixed(0)} MB at rest, ${now.toFixed(0)} MB afterwards`)
    expect(now).toBeLessThan(atRest + 50)
  })
})

describe('one place that asks without waiting for answers', () => {
  const from = '198.51.100.20'
  const head = (method: string, path: string, more = '') =>
    `${method} ${path} HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Forwarded-For: ${from}\r\n${more}\r\n`
  const here = (path: string, agent?: Agent) =>
    new Promise<number>((resolve, reject) => {
      const asked = get(server.url + path, { agent, headers: { 'x-forwarded-for': from } }, (response) => {
        response.resume().on('end', () => resolve(response.statusCode ?? 0))
      })
      asked.on('error', reject)
    })

  it('on 300 connections has its turn like everybody else', async () => {
    const agent = new Agent({ keepAlive: true, maxSockets: 300 })
    const watched = watchStalls(server, databaseUrl())
    const begun = performance.now()
    const statuses = await Promise.all(Array.from({ length: 4000 }, () => here('/api/session', agent)))
    const waited = ((performance.now() - begun) * 300) / 4000
    const { typical } = watched()
    agent.destroy()
    console.log(
      `300 connections from one place wait ${waited.toFixed(0)} ms, another ${typical.toFixed(0)} ms`,
    )
    expect(new Set(statuses)).toEqual(new Set([200]))
    expect(typical).toBeLessThan(waited / 3)
  })
  it('700 times at once hears that it is too much, and later that it is not', async () => {
    const agent = new Agent({ keepAlive: true, maxSockets: 700 })
    const statuses = await Promise.all(Array.from({ length: 700 }, () => here('/api/session', agent)))
    agent.destroy()
    expect([200, 429]).toEqual(expect.arrayContaining([...new Set(statuses)]))
    expect(await here('/api/session')).toBe(200)
  })
  it('on one connection loses the connection, and nobody else their turn', async () => {
    for (const _ of [1, 2, 3]) {
      const socket = connected(head('GET', '/api/session').repeat(20_000))
      await new Promise((resolve) => socket.once('close', resolve))
    }
    expect(await here('/api/session')).toBe(200)
  })
  it('and sends slowly, or goes away in the middle, keeps nobody there waiting', async () => {
    const slow = Array.from({ length: 100 }, () =>
      connected(
        head('POST', '/api/sign-in', 'Content-Type: application/json\r\nContent-Length: 900\r\n') + '{',
      ),
    )
    const gone = Array.from({ length: 100 }, () => connected(head('GET', '/api/session')))
    gone.forEach((socket) => socket.end())
    expect(await here('/api/session')).toBe(200)
    slow.forEach((socket) => socket.destroy())
    expect(await here('/api/session')).toBe(200)
  })
})

describe('an account that does not read its answers', () => {
  it('has two of them on their way and no more, and is served again once it has gone', async () => {
    const person = await Visitor.signedUp(server.url)
    const { id } = await person.candidate()
    const items = Array.from({ length: 40_000 }, (_, at) => ({
      item: at + 1,
      right: at % 3 > 0,
      topic: 'tide-heights',
    }))
    for (let at = 0; at < 4; at++) {
      const attempt = randomUUID()
      const sat = {
        ...practiceTest(attempt, { title: `Set ${at}` }),
        kind: 'set',
        form: undefined,
        source: 'other',
        counts: { topics: {} },
        items,
      }
      await person.good('PUT', `/api/candidates/${id}/attempts/${attempt}`, { version: 0, attempt: sat })
    }
    const asked = person.raw('GET', `/api/candidates/${id}/file`)
    let begun = 0
    const sockets = Array.from({ length: 24 }, () => {
      const socket = connected(asked)
      // The first bytes, and then no more.
      return socket.once('data', () => socket.pause() && (begun += 1))
    })
    while (begun < 2) await new Promise((resolve) => setTimeout(resolve, 50))
    // As long again as two took, and more: the others wait.
    await new Promise((resolve) => setTimeout(resolve, 8000))
    const answered = begun
    sockets.forEach((socket) => socket.destroy())
    // Many on one connection, which breaks off: those behind the first have no socket of their own yet.
    const piled = connected(asked.repeat(20))
    await new Promise((resolve) => setTimeout(resolve, 300))
    piled.destroy()
    // Too many of theirs may stand there until the server has heard that nobody waits for them.
    let status = 429
    while (status === 429) ({ status } = await person.send('GET', `/api/candidates/${id}/plan.ics`))
    expect(status).toBe(200)
    await person.good('DELETE', `/api/candidates/${id}`, {})
    expect(answered).toBe(2)
  })
})

it('nothing was written that says what anybody sent, and no fault of ours', () => {
  expect(server.said).toEqual([])
})
