import { randomUUID } from 'node:crypto'
import { type Database } from '../src/database'
import { type App, appOn, Browser, freshDatabase } from './harness'

let database: Database
let app: App
beforeAll(async () => {
  database = await freshDatabase()
  app = appOn(database)
})
afterAll(() => database.sequelize.close())

describe('accounts', () => {
  it('sign up, out and in again', async () => {
    const browser = new Browser(app)
    const email = `${randomUUID()}@mail.example`
    expect((await browser.signUp(email, 'correct pony battery')).user?.email).toBe(email)
    await browser.send('post', '/api/sign-out')
    expect((await browser.arrive()).user).toBeNull()
    expect((await browser.signIn(email, 'wrong pony battery')).status).toBe(401)
    expect((await browser.signIn(email.toUpperCase(), 'correct pony battery')).body.user.email).toBe(email)
  })
  it('stores no password, only its argon2id hash', async () => {
    const browser = new Browser(app)
    const { user } = await browser.signUp(undefined, 'never written anywhere')
    const row = await database.models.users.findByPk(user!.id)
    expect(row!.passwordHash).toMatch(/^\$argon2id\$/)
  })
  it('names the field that is at fault', async () => {
    const browser = new Browser(app)
    await browser.arrive()
    const answer = await browser.send('post', '/api/sign-up', {
      email: 'nobody',
      password: 'short',
      name: '',
    })
    expect(answer.status).toBe(422)
    expect(answer.body.issues.map(({ field }: { field: string }) => field).sort()).toEqual([
      'email',
      'name',
      'password',
    ])
  })
  it('sent twice is one account; with another password the address is taken', async () => {
    const email = `${randomUUID()}@mail.example`
    const first = await new Browser(app).signUp(email, 'the very same words')
    expect((await new Browser(app).signUp(email, 'the very same words')).user!.id).toBe(first.user!.id)
    await expect(new Browser(app).signUp(email, 'some other words')).rejects.toThrow(/422/)
  })
  it('how days are written is the account’s own, wherever it signs in', async () => {
    const email = `${randomUUID()}@mail.example`
    const [here, there, other] = [new Browser(app), new Browser(app), new Browser(app)]
    expect((await here.signUp(email, 'correct pony battery')).user!.locale).toBe('en-GB')
    expect((await here.send('put', '/api/account/locale', { locale: 'en-US' })).body.user.locale).toBe(
      'en-US',
    )
    expect((await there.signIn(email, 'correct pony battery')).body.user.locale).toBe('en-US')
    expect((await other.signUp()).user!.locale).toBe('en-GB')
    const wrong = await here.send('put', '/api/account/locale', { locale: 'xx' })
    expect([wrong.status, wrong.body.issues[0].field]).toEqual([422, 'locale'])
  })
  it('sign-out everywhere ends the other sessions too', async () => {
    const email = `${randomUUID()}@mail.example`
    const [here, there] = [new Browser(app), new Browser(app)]
    await here.signUp(email, 'correct pony battery')
    await there.signIn(email, 'correct pony battery')
    await here.send('post', '/api/sign-out-everywhere')
    expect((await there.arrive()).user).toBeNull()
  })
  it('a change without the CSRF token is refused', async () => {
    const browser = new Browser(app)
    await browser.signUp()
    browser.csrf = 'guessed'
    const answer = await browser.send('post', '/api/sign-out')
    expect(answer.status).toBe(403)
    expect(answer.body.code).toBe('forged')
  })
  it('guessing passwords is slowed down', async () => {
    const browser = new Browser(app)
    const email = `${randomUUID()}@mail.example`
    const statuses: number[] = []
    for (let tries = 0; tries < 12; tries++)
      statuses.push((await browser.signIn(email, `guess ${tries}`)).status)
    expect(statuses.slice(0, 10)).toEqual(Array(10).fill(401))
    expect(statuses.slice(10)).toEqual([429, 429])
  })
  it('demo accounts open without a password in demo mode only', async () => {
    const browser = new Browser(app)
    expect((await browser.arrive()).demoAccounts).toEqual([])
    expect((await browser.send('post', '/api/demo-sign-in', { email: 'tutor@demo.example' })).status).toBe(
      401,
    )
  })
})

describe('the server', () => {
  it('says that it is well, database included', async () => {
    const answer = await new Browser(app).send('get', '/api/health')
    expect(answer.body).toMatchObject({ ok: true, database: true })
  })
  it('sends a strict content security policy and a request id', async () => {
    const { headers } = await new Browser(app).send('get', '/api/health')
    expect(headers['content-security-policy']).toContain("default-src 'none'")
    expect(headers['content-security-policy']).not.toContain('unsafe')
    expect(headers['x-request-id']).toMatch(/^[0-9a-f-]{36}$/)
  })
  it('answers unknown addresses and broken JSON in the one shape of errors', async () => {
    const browser = new Browser(app)
    await browser.arrive()
    expect((await browser.send('get', '/api/nothing')).body.code).toBe('not-found')
    const broken = await browser.sendText('post', '/api/sign-in', '{"email":')
    expect([broken.status, broken.body.code]).toEqual([422, 'invalid'])
  })
})
