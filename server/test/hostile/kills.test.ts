import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { createInterface } from 'node:readline'
import { setTimeout as wait } from 'node:timers/promises'
import type { Candidate, ChangedPlan, PlanSession } from '@climber/contract'
import { serverFile } from '../../../scripts/server.mjs'
import { now, practiceTest } from '../harness'
import { freePort } from './freePort'
import { Dice, seed, Visitor } from './world'

/**
 * The start command as a whole, its server and its database killed outright: under load, and at every stage of a first start. A tenth
 * in a run, all with CLIMBER_KILLS=all.
 */
const root = process.cwd()
const times = (all: number): number => (process.env['CLIMBER_KILLS'] === 'all' ? all : Math.ceil(all / 10))
const dice = new Dice(seed)

/** Processes whose command has this word as an argument of its own. */
const withArgument = (word: string): number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => {
      try {
        return readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0').includes(word)
      } catch {
        return false
      }
    })
const childrenOf = (pid: number): number[] => {
  try {
    return readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').split(' ').filter(Boolean).map(Number)
  } catch {
    return []
  }
}
/** Whether a process still runs, dead ones that nobody has fetched left out. */
const runs = (pid: number): boolean => {
  try {
    return !/^\d+ \(.*\) Z/.test(readFileSync(`/proc/${pid}/stat`, 'utf8'))
  } catch {
    return false
  }
}
const kill = (pid: number | undefined): void => {
  try {
    if (pid) process.kill(pid, 'SIGKILL')
  } catch {
    // Gone already.
  }
}

/** `npm start` on a data folder of its own. */
class Starter {
  child: ChildProcess | undefined
  readonly folder = mkdtempSync(path.join(os.tmpdir(), 'climber-kills-'))
  readonly data = path.join(this.folder, 'own', 'mariadb')
  said: string[] = []
  constructor(readonly port: number) {}

  get url() {
    return `http://127.0.0.1:${this.port}`
  }
  begin(): void {
    this.child = spawn(process.execPath, ['scripts/start.mjs'], {
      cwd: root,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...process.env,
        NODE_OPTIONS: '',
        PORT: String(this.port),
        CLIMBER_DATA: this.folder,
        CLIMBER_NOW: now,
        CLIMBER_PROXY: '1',
        DATABASE_URL: '',
      },
    })
    for (const stream of [this.child.stdout!, this.child.stderr!])
      createInterface({ input: stream }).on('line', (line) => this.said.push(line))
  }
  async healthy(): Promise<boolean> {
    try {
      const answer = await fetch(`${this.url}/api/health`, { signal: AbortSignal.timeout(2000) })
      return answer.status === 200
    } catch {
      return false
    }
  }
  /** Waits until all is well again; answers after how many milliseconds. */
  async recovered(): Promise<number> {
    const begun = performance.now()
    while (!(await this.healthy())) {
      const ended = this.child?.exitCode ?? null
      if (ended !== null || performance.now() - begun > 180_000)
        throw new Error(`not back: ${this.said.slice(-8).join(' | ')}`)
      await wait(25)
    }
    return performance.now() - begun
  }
  get server(): number | undefined {
    return childrenOf(this.child?.pid ?? 0).find((pid) => withArgument(serverFile).includes(pid))
  }
  get database(): number | undefined {
    return withArgument(`--datadir=${this.data}`)[0]
  }
  async end(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<void> {
    const { child } = this
    if (!child || child.exitCode !== null || child.signalCode !== null) return
    const gone = new Promise((resolve) => child.once('exit', resolve))
    child.kill(signal)
    await gone
  }
  async clear(): Promise<void> {
    await this.end()
    for (let tries = 0; withArgument(`--datadir=${this.data}`).length && tries < 200; tries++) await wait(50)
    rmSync(this.folder, { recursive: true, force: true, maxRetries: 10 })
  }
}

const spread = (all: number[]): string => {
  const sorted = [...all].sort((a, b) => a - b)
  const at = (share: number) => Math.round(sorted[Math.floor(share * (sorted.length - 1))] ?? 0)
  return `median ${at(0.5)} ms, nine tenths ${at(0.9)} ms, most ${at(1)} ms of ${all.length}`
}

/** Sessions of a writer, the last ones, that are pinned and let go; the others are done and not done. */
const pinnable = 10

/** Somebody who works without a pause and knows what was confirmed; sends again, under the same id, what was not answered. */
class Writer {
  readonly attempts = new Map<string, string>()
  readonly statuses = new Map<string, string>()
  target = { version: 1, scaled: 300 }
  plan = 1
  pinned = new Map<string, boolean>()
  confirmed = 0
  again = 0
  stopped = false

  private constructor(
    private readonly visitor: Visitor,
    private readonly id: string,
    private readonly sessions: (PlanSession & { version: number })[],
    private readonly dice: Dice,
  ) {}

  static async arrive(base: string, at: number): Promise<Writer> {
    const visitor = await Visitor.signedUp(base)
    const { id, plan } = await visitor.candidate()
    const sessions = plan!.sessions.filter(({ kind }) => kind === 'learn' || kind === 'drill')
    return new Writer(visitor, id, sessions, new Dice(seed + at))
  }

  /** Until it is answered; a refusal is a fault of this test or of the server. */
  private async surely<T>(method: string, rest: string, body: object): Promise<T> {
    for (let tries = 0; ; tries++) {
      try {
        const {
          status,
          body: said,
          text,
        } = await this.visitor.send(method, `/api/candidates/${this.id}${rest}`, body)
        if (status === 200) {
          this.confirmed += 1
          if (tries) this.again += 1
          return said as T
        }
        if (status !== 503 && status !== 429)
          throw new Refused(`${method} ${rest}: ${status} ${text.slice(0, 300)}`)
      } catch (error) {
        if (error instanceof Refused) throw error
      }
      await wait(30)
    }
  }

  async work(): Promise<void> {
    while (!this.stopped) {
      const request = randomUUID()
      const kind = this.dice.below(4)
      if (kind === 0) {
        const id = randomUUID()
        const title = `Paper ${this.attempts.size}`
        await this.surely('PUT', `/attempts/${id}`, {
          version: 0,
          request,
          attempt: practiceTest(id, { form: undefined, title, source: 'other' }),
        })
        this.attempts.set(id, title)
      } else if (kind === 1) {
        const scaled = 300 + this.dice.below(100)
        const stored = await this.surely<{ version: number }>('PUT', '/parts/target', {
          version: this.target.version,
          request,
          document: { scaled },
        })
        this.target = { version: stored.version, scaled }
      } else if (kind === 2) {
        // Not one of those that are pinned: what is done stays where it is.
        const session = this.sessions[this.dice.below(this.sessions.length - pinnable)]!
        const status = this.statuses.get(session.id) === 'done' ? 'planned' : 'done'
        const { version } = (await this.surely<Candidate>('GET', '', {})).plan!.sessions.find(
          ({ id }) => id === session.id,
        )!
        await this.surely('PUT', `/sessions/${session.id}`, {
          version,
          request,
          status,
          ...(status === 'done' && { minutesDone: 20 }),
        })
        this.statuses.set(session.id, status)
      } else {
        const session = this.sessions[this.sessions.length - 1 - this.dice.below(pinnable)]!
        const pinned = !this.pinned.get(session.id)
        const changed = await this.surely<ChangedPlan>('PUT', '/plan/arrangement', {
          version: this.plan,
          request,
          moves: [{ id: session.id, pinned }],
        })
        this.pinned.set(session.id, pinned)
        this.plan = changed.plan.version
      }
    }
  }

  /** What is stored that was not confirmed, or not as it was; each change is in its version once. */
  async faults(): Promise<string[]> {
    const found = await this.surely<Candidate>('GET', '', {})
    const sat = found.attempts.filter(({ kind }) => kind === 'practice')
    const faults: string[] = []
    const same = (what: string, stored: unknown, wanted: unknown) => {
      if (JSON.stringify(stored) !== JSON.stringify(wanted))
        faults.push(`${what}: ${JSON.stringify(stored)} is stored, ${JSON.stringify(wanted)} was confirmed`)
    }
    same('papers', sat.length, this.attempts.size)
    for (const one of sat) same(one.id, [one.title, one.version], [this.attempts.get(one.id), 1])
    const { document, version } = found.parts.target!
    same(
      'target',
      [(document as { scaled: number }).scaled, version],
      [this.target.scaled, this.target.version],
    )
    same('plan', found.plan!.version, this.plan)
    for (const session of found.plan!.sessions) {
      same(session.id, session.status, this.statuses.get(session.id) ?? 'planned')
      if (this.pinned.has(session.id)) same(session.id, session.pinned, this.pinned.get(session.id))
    }
    return faults
  }
}
class Refused extends Error {}

describe('killed under load', () => {
  let starter: Starter
  let writers: Writer[]
  let working: Promise<unknown>
  let refused: unknown
  const confirmed = () => writers.reduce((all, writer) => all + writer.confirmed, 0)
  beforeAll(async () => {
    starter = new Starter(await freePort())
    starter.begin()
    await starter.recovered()
    writers = await Promise.all([1, 2, 3, 4, 5, 6].map((at) => Writer.arrive(starter.url, at)))
    working = Promise.all(writers.map((writer) => writer.work()))
    working.catch((error: unknown) => (refused = error))
  }, 240_000)
  afterAll(() => starter.clear(), 60_000)

  it.each(['server', 'database'] as const)(
    'the %s is back by itself each time',
    async (which) => {
      const recoveries: number[] = []
      for (let round = 0; round < times(100); round++) {
        // Only where work goes on can anything be lost: somebody's is confirmed before the next kill.
        const before = confirmed()
        while (confirmed() === before && !refused) await wait(10)
        if (refused) throw refused
        await wait(dice.below(1200))
        const pid = starter[which]
        expect(pid).toBeDefined()
        kill(pid)
        // Health may answer once more before the kill is felt.
        await wait(60)
        recoveries.push(60 + (await starter.recovered()))
      }
      console.log(`${which} killed under load, until it is well again: ${spread(recoveries)}`)
    },
    3_600_000,
  )

  it('nothing that was confirmed is lost, half or doubled', async () => {
    for (const writer of writers) writer.stopped = true
    await working
    const faults = (await Promise.all(writers.map((writer) => writer.faults()))).flat()
    const sum = (count: (writer: Writer) => number) => writers.reduce((all, writer) => all + count(writer), 0)
    console.log(
      `${sum(({ confirmed }) => confirmed)} requests confirmed, ${sum(({ again }) => again)} of them sent more than once`,
    )
    expect(faults).toEqual([])
    expect(sum(({ again }) => again)).toBeGreaterThan(0)
  }, 120_000)
})

describe('killed at a first start', () => {
  const stages: Record<string, (starter: Starter) => boolean> = {
    'while the database is installed': ({ folder }) =>
      existsSync(path.join(folder, 'own')) &&
      readdirSync(path.join(folder, 'own')).some((name) => name.startsWith('mariadb.new-')),
    'as the database starts for the first time': ({ data }) =>
      withArgument(`--datadir=${data}`).length > 0 && existsSync(data),
    'in the migrations': (starter) => starter.server !== undefined,
  }
  it.each(Object.keys(stages))(
    '%s, it starts by itself the next time',
    async (name) => {
      const recoveries: number[] = []
      for (let round = 0; round < times(30); round++) {
        const starter = new Starter(await freePort())
        try {
          starter.begin()
          while (!stages[name]!(starter)) await wait(2)
          await wait(dice.below(name.startsWith('in the') ? 900 : 500))
          // The starter alone, or everything at once as when the power goes.
          const everything = dice.chance(0.5)
          const others = everything
            ? [...childrenOf(starter.child!.pid!), ...withArgument(`--datadir=${starter.data}`)]
            : []
          const left = starter.server
          await starter.end('SIGKILL')
          others.forEach(kill)
          starter.begin()
          recoveries.push(await starter.recovered())
          const visitor = await Visitor.signedUp(starter.url)
          expect((await visitor.candidate()).plan!.sessions.length).toBeGreaterThan(10)
          // The server of the start that was killed has noticed, and is gone.
          for (let tries = 0; left && runs(left) && tries < 200; tries++) await wait(50)
          expect(left && runs(left)).toBeFalsy()
        } finally {
          await starter.clear()
        }
      }
      console.log(`killed ${name}, until it is well: ${spread(recoveries)}`)
    },
    3_600_000,
  )
})
