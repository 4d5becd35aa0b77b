import { jest } from '@jest/globals'
import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import path from 'node:path'
import { createInterface } from 'node:readline'
import type { Candidate } from '@climber/contract'
import { randomFrom } from '@climber/core'
import { serverEnvironment, serverFile } from '../../../scripts/server.mjs'
import { candidateFile, now } from '../harness'

const root = process.cwd()

// Real servers on machines that have other things to do: nothing here fails for slowness alone.
jest.setTimeout(900_000)

/** Cases in a run, all generators together: 2,000, or as many as CLIMBER_HOSTILE says. */
export const cases = (share: number): number =>
  Math.max(1, Math.round(share * Number(process.env['CLIMBER_HOSTILE'] ?? 2000)))

/** The seed of the day, or the one given, printed so that the same can be had again. */
export const seed = Number(process.env['CLIMBER_HOSTILE_SEED'] ?? Math.floor(Date.now() / 86_400_000))

/** Random choices from one seed. */
export class Dice {
  readonly next: () => number
  constructor(at: number) {
    this.next = randomFrom(at)
  }
  below = (limit: number): number => Math.floor(this.next() * limit)
  chance = (share: number): boolean => this.next() < share
  of<T>(list: readonly T[]): T {
    return list[this.below(list.length)] as T
  }
}

/** The real server as a process of its own, with its threads. */
export class Server {
  private constructor(
    readonly url: string,
    readonly child: ChildProcess,
    readonly said: string[],
  ) {}

  static async start(databaseUrl: string, more: Record<string, string> = {}): Promise<Server> {
    const child = spawn(process.execPath, [serverFile], {
      stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
      env: serverEnvironment({
        ...process.env,
        PORT: '0',
        NODE_OPTIONS: '',
        DATABASE_URL: databaseUrl,
        SESSION_SECRET: 'a secret for the tests only',
        CLIMBER_NOW: now,
        CLIMBER_LOG: 'error',
        CLIMBER_INSIDE: '1',
        CLIMBER_SAMPLES: path.join(root, 'demo'),
        ...more,
      }),
    })
    const said: string[] = []
    createInterface({ input: child.stderr! }).on('line', (line) => said.push(line))
    const lines = createInterface({ input: child.stdout! })
    const url = await new Promise<string>((resolve, reject) => {
      lines.on('line', (line) => {
        const found = /http:\S+/.exec(line)
        if (found) resolve(found[0])
        else said.push(line)
      })
      child.once('exit', (code) =>
        reject(new Error(`the server ended with ${code} before it listened: ${said.join('\n')}`)),
      )
    })
    return new Server(url, child, said)
  }

  get alive(): boolean {
    return this.child.exitCode === null && this.child.signalCode === null
  }
  /** Resident memory in MB. */
  get memory(): number {
    const found = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${this.child.pid}/status`, 'utf8'))
    return Number(found?.[1] ?? 0) / 1024
  }
  async end(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<void> {
    if (!this.alive) return
    const gone = new Promise((resolve) => this.child.once('exit', resolve))
    this.child.kill(signal)
    await gone
  }
}

export interface Answered {
  status: number
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- whatever the server says
  body: any
  text: string
}

/** Whether a connection that had nothing to do was closed just as it was taken up again. */
export const wasClosed = (error: unknown): boolean =>
  ((error as Error).cause as { code?: string } | undefined)?.code === 'UND_ERR_SOCKET'

/** Somebody with a browser, or with something that only looks like one. */
export class Visitor {
  private readonly cookies = new Map<string, string>()
  csrf = ''
  /** Where they are, as a proxy would say. */
  private readonly address = `2001:4860:${[1, 2, 3, 4].map(() => Math.floor(Math.random() * 65_536).toString(16)).join(':')}::1`

  constructor(public base: string) {}

  /** The same person at another server. */
  at(base: string): Visitor {
    const other = new Visitor(base)
    this.cookies.forEach((value, name) => other.cookies.set(name, value))
    other.csrf = this.csrf
    return other
  }
  async send(
    method: string,
    address: string,
    body?: unknown,
    headers: Record<string, string> = {},
    signal: AbortSignal = AbortSignal.timeout(120_000),
  ): Promise<Answered> {
    const raw = typeof body === 'string' || body instanceof Uint8Array
    const request: RequestInit = {
      method,
      headers: {
        cookie: [...this.cookies.values()].join('; '),
        'x-csrf-token': this.csrf,
        'content-type': 'application/json',
        'x-forwarded-for': this.address,
        ...headers,
      },
      body:
        method === 'GET' || body === undefined ? undefined : raw ? (body as string) : JSON.stringify(body),
      redirect: 'manual',
      signal,
    }
    const ask = () => fetch(this.base + address, request)
    // Whoever only reads asks once more, as browsers do.
    const response = await ask().catch((error: Error) => {
      if (method === 'GET' && wasClosed(error)) return ask()
      throw error
    })
    for (const set of response.headers.getSetCookie())
      this.cookies.set(set.split('=')[0] ?? '', set.split(';')[0] ?? '')
    const text = await response.text()
    let json: { csrf?: string } | undefined
    try {
      json = JSON.parse(text) as { csrf?: string }
    } catch {
      // A page, or a calendar.
    }
    if (json?.csrf) this.csrf = json.csrf
    return { status: response.status, body: json, text }
  }
  /** The same without a body as it goes over the wire. */
  raw(method: string, address: string): string {
    const cookies = [...this.cookies.values()].join('; ')
    return `${method} ${address} HTTP/1.1\r\nHost: 127.0.0.1\r\nCookie: ${cookies}\r\nX-Forwarded-For: ${this.address}\r\n\r\n`
  }
  async good<T = Record<string, unknown>>(method: string, address: string, body?: unknown): Promise<T> {
    const { status, body: said, text } = await this.send(method, address, body)
    if (status !== 200) throw new Error(`${method} ${address} answered ${status}: ${text.slice(0, 300)}`)
    return said as T
  }
  static async signedUp(base: string, email = `${randomUUID()}@mail.example`): Promise<Visitor> {
    const visitor = new Visitor(base)
    await visitor.good('GET', '/api/session')
    await visitor.good('POST', '/api/sign-up', { email, password: 'long enough for anyone', name: 'Someone' })
    return visitor
  }
  /** A candidate with a plan of their own. */
  async candidate(): Promise<Candidate> {
    const id = randomUUID()
    await this.good('PUT', `/api/candidates/${id}/file`, { file: candidateFile() })
    await this.good('PUT', `/api/candidates/${id}/plan`, { version: 0, seed: 1 })
    return this.good<Candidate>('GET', `/api/candidates/${id}`)
  }
}
