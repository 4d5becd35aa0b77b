import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import request from 'supertest'
import { Clock } from '../src/clock'
import { configFrom } from '../src/config'
import { type Database } from '../src/database'
import { Refusal } from '../src/refusal'
import { type App, appOn, freshDatabase } from './harness'

let database: Database
let folder: string
let app: App
beforeAll(async () => {
  database = await freshDatabase()
  folder = mkdtempSync(path.join(os.tmpdir(), 'climber-web-'))
  mkdirSync(path.join(folder, 'assets'))
  writeFileSync(
    path.join(folder, 'index.html'),
    '<meta name="csp-nonce" content="__NONCE__" /><div id="app"></div>',
  )
  writeFileSync(path.join(folder, 'assets/main-abc.js'), 'export {}')
  writeFileSync(path.join(os.tmpdir(), 'climber-secret.txt'), 'not for the web')
  app = appOn(database, { CLIMBER_WEB: folder })
})
afterAll(async () => {
  await database.sequelize.close()
  rmSync(folder, { recursive: true })
})

describe('the built web app', () => {
  it('comes with a new nonce each time, the same in page and policy', async () => {
    const nonceOf = async () => {
      const { text, headers } = await request(app).get('/')
      const nonce = /content="([^"]+)"/.exec(text)![1]!
      expect(headers['content-security-policy']).toContain(`'nonce-${nonce}'`)
      expect(headers['cache-control']).toBe('no-store')
      return nonce
    }
    expect(await nonceOf()).not.toBe(await nonceOf())
  })
  it('answers every address of its own with the page, and none under /api', async () => {
    expect((await request(app).get('/c/some-id/plan')).text).toContain('id="app"')
    expect((await request(app).get('/api/nowhere')).status).toBe(404)
  })
  it('lets hashed files be kept for good', async () => {
    const { headers, status } = await request(app).get('/assets/main-abc.js')
    expect(status).toBe(200)
    expect(headers['cache-control']).toContain('immutable')
  })
  it('serves nothing from outside its folder', async () => {
    for (const address of [
      '/../climber-secret.txt',
      '/assets/../../climber-secret.txt',
      '/%2e%2e/climber-secret.txt',
    ])
      expect((await request(app).get(address)).text).not.toContain('not for the web')
  })
  it('may not be framed, and says little about itself', async () => {
    const { headers } = await request(app).get('/')
    expect(headers['content-security-policy']).toContain("frame-ancestors 'none'")
    expect(headers['x-powered-by']).toBeUndefined()
    expect(headers['x-content-type-options']).toBe('nosniff')
  })
  it('keeps its cookie from scripts and other sites', async () => {
    const { headers } = await request(app).get('/api/session')
    const [cookie] = headers['set-cookie'] as unknown as string[]
    expect(cookie).toMatch(/HttpOnly/i)
    expect(cookie).toMatch(/SameSite=Lax/i)
    const secure = appOn(database, { CLIMBER_WEB: folder, CLIMBER_SECURE: '1' })
    expect((await request(secure).get('/')).headers['strict-transport-security']).toBeDefined()
  })
})

describe('configuration', () => {
  const good = { DATABASE_URL: 'mariadb://x', SESSION_SECRET: 'sixteen letters!' }
  it('has defaults for all but the database and the secret', () => {
    expect(configFrom(good)).toMatchObject({ port: 4400, host: '127.0.0.1', demo: false, secure: false })
  })
  it.each([
    ['SESSION_SECRET', { ...good, SESSION_SECRET: 'short' }],
    ['DATABASE_URL', { SESSION_SECRET: good.SESSION_SECRET }],
    ['PORT', { ...good, PORT: 'many' }],
    ['CLIMBER_NOW', { ...good, CLIMBER_NOW: 'yesterday' }],
  ])('names %s when it is wrong', (name, environment) => {
    expect(() => configFrom(environment)).toThrow(new RegExp(name))
  })
})

describe('the clock', () => {
  it('stands still when it is told to, and knows zones', () => {
    const clock = new Clock('2030-01-15T23:30:00Z')
    expect(clock.stands).toBe(true)
    expect(clock.at('Etc/UTC')).toEqual({ date: '2030-01-15', minute: 23 * 60 + 30 })
    expect(clock.at('Pacific/Auckland')).toEqual({ date: '2030-01-16', minute: 12 * 60 + 30 })
    expect(new Clock().stands).toBe(false)
  })
})

describe('refusals', () => {
  it('have a status of HTTP each', () => {
    const codes = [
      'invalid',
      'not-signed-in',
      'not-found',
      'conflict',
      'wrong-password',
      'too-many',
      'forged',
      'unavailable',
    ] as const
    expect(codes.map((code) => new Refusal({ code, message: '' }).status)).toEqual([
      422, 401, 404, 409, 401, 429, 403, 503,
    ])
  })
})
