import { randomUUID } from 'node:crypto'
import https from 'node:https'
import type { Database } from '../../src/database'
import { configFrom } from '../../src/config'
import { databaseUrl, freshDatabase } from '../harness'
import { proxyBefore } from './proxy'
import { Server } from './world'

/** Behind a real proxy that ends TLS: what a school that runs its own server has. */
let database: Database
let server: Server
let proxy: Awaited<ReturnType<typeof proxyBefore>>
beforeAll(async () => {
  database = await freshDatabase()
  server = await Server.start(databaseUrl(), { CLIMBER_SECURE: '1', CLIMBER_PROXY: '1' })
  proxy = await proxyBefore(server.url)
})
afterAll(async () => {
  proxy.end()
  await server.end()
  await database.sequelize.close()
})

interface Said {
  status: number
  headers: Record<string, string | string[] | undefined>
  body: { csrf?: string; user?: { name: string } | null }
}
/** A browser at an address of its own on the loopback network. */
class Client {
  private readonly cookies = new Map<string, string>()
  readonly set: string[] = []
  private csrf = ''
  constructor(private readonly localAddress: string) {}
  send(method: string, path: string, body?: object, headers: Record<string, string> = {}): Promise<Said> {
    return new Promise((resolve, reject) => {
      const request = https.request(
        {
          host: '127.0.0.1',
          servername: 'localhost',
          port: proxy.port,
          ca: proxy.certificate,
          localAddress: this.localAddress,
          method,
          path,
          headers: {
            'content-type': 'application/json',
            cookie: [...this.cookies.values()].join('; '),
            'x-csrf-token': this.csrf,
            ...headers,
          },
        },
        (response) => {
          let text = ''
          for (const one of response.headers['set-cookie'] ?? []) {
            this.set.push(one)
            this.cookies.set(one.split('=')[0] ?? '', one.split(';')[0] ?? '')
          }
          response.on('data', (chunk) => (text += String(chunk)))
          response.on('end', () => {
            const said = JSON.parse(text) as Said['body']
            if (said.csrf) this.csrf = said.csrf
            resolve({ status: response.statusCode ?? 0, headers: response.headers, body: said })
          })
        },
      )
      request.on('error', reject)
      request.end(body && JSON.stringify(body))
    })
  }
}

it('one signs up, is signed in, and all cookies are for HTTPS alone', async () => {
  const person = new Client('127.0.0.1')
  const session = await person.send('GET', '/api/session')
  expect(session.headers['strict-transport-security']).toContain('max-age=')
  const made = await person.send('POST', '/api/sign-up', {
    email: `${randomUUID()}@mail.example`,
    password: 'long enough for anyone',
    name: 'Orla Venn',
  })
  expect([made.status, made.body.user?.name]).toEqual([200, 'Orla Venn'])
  expect((await person.send('GET', '/api/session')).body.user?.name).toBe('Orla Venn')
  expect(
    (await person.send('PUT', `/api/templates/${randomUUID()}`, { title: 'Evenings', settings: {} })).status,
  ).toBe(200)
  expect(person.set.length).toBeGreaterThan(1)
  for (const cookie of person.set) expect(cookie).toMatch(/; Secure/i)
  expect(person.set.some((cookie) => cookie.startsWith('__Host-'))).toBe(true)
})

it('limits go by where somebody really is, whatever they say themselves', async () => {
  const guess = (client: Client, claimed: string) =>
    client.send(
      'POST',
      '/api/sign-in',
      { email: `${randomUUID()}@mail.example`, password: 'the season and year' },
      { 'x-forwarded-for': claimed },
    )
  const here = new Client('127.0.0.2')
  await here.send('GET', '/api/session')
  const statuses: number[] = []
  for (let at = 0; at < 61; at++) statuses.push((await guess(here, `198.51.100.${at}`)).status)
  expect(statuses[59]).toBe(401)
  expect(statuses[60]).toBe(429)
  const there = new Client('127.0.0.3')
  await there.send('GET', '/api/session')
  expect((await guess(there, '127.0.0.2')).status).toBe(401)
})

it('whose word is taken is said by a setting, and by default nobody’s', () => {
  const given = { DATABASE_URL: 'mariadb://x', SESSION_SECRET: 'sixteen letters!' }
  expect(configFrom(given).proxy).toBeUndefined()
  expect(configFrom({ ...given, CLIMBER_PROXY: '2' }).proxy).toBe(2)
  expect(configFrom({ ...given, CLIMBER_PROXY: '10.0.0.0/8, ::1' }).proxy).toEqual(['10.0.0.0/8', '::1'])
  expect(() => configFrom({ ...given, CLIMBER_PROXY: 'everybody' })).toThrow(/CLIMBER_PROXY/)
})
