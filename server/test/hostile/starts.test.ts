import { spawn } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { QueryTypes } from 'sequelize'
import { Clock } from '../../src/clock'
import { type Database, migrate } from '../../src/database'
import { loadDemo } from '../../src/demo'
import { signUp } from '../../src/services/account'
import { databaseUrl, dropEverything, freshDatabase, now } from '../harness'
import { storeAsVersion1 } from '../version1'
import { Dice, seed, Server } from './world'

/** First starts, cut short at every step and begun again. */
const root = process.cwd()
const whole = process.env['CLIMBER_KILLS'] === 'all'
let database: Database
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.sequelize.close())

const select = <T extends object>(sql: string) =>
  database.sequelize.query<T>(sql, { type: QueryTypes.SELECT })

/** Everything of the schema and of the rows, without what is another each time. */
async function everything(): Promise<string> {
  const columns = await select<{ t: string }>(
    `SELECT table_name AS t, column_name, column_type, is_nullable, column_default FROM information_schema.columns
     WHERE table_schema = DATABASE() ORDER BY table_name, ordinal_position`,
  )
  const keys = await select<object>(
    `SELECT table_name, index_name, column_name, non_unique FROM information_schema.statistics
     WHERE table_schema = DATABASE() ORDER BY table_name, index_name, seq_in_index`,
  )
  const references = await select<object>(
    `SELECT table_name, constraint_name, referenced_table_name, delete_rule
     FROM information_schema.referential_constraints WHERE constraint_schema = DATABASE()
     ORDER BY table_name, constraint_name`,
  )
  const rows: Record<string, string[]> = {}
  for (const name of new Set(columns.map(({ t }) => t)))
    rows[name] = (await select<object>(`SELECT * FROM ${name}`))
      .map((row) =>
        JSON.stringify(row, (key, value: unknown) => (/^(created|updated)_at$|^id$/.test(key) ? '' : value)),
      )
      .sort()
  return JSON.stringify({ columns, keys, references, rows }).replace(
    /[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}/g,
    'id',
  )
}

/** Runs the migrations until the `step`th statement has been done, and no further, as if killed there; false where there are fewer. */
async function cutAt(step: number): Promise<boolean> {
  const { sequelize } = database
  type Query = (...all: unknown[]) => Promise<unknown>
  const query: Query = sequelize.query.bind(sequelize) as Query
  let done = 0
  const cut = async (...all: unknown[]): Promise<unknown> => {
    if (done >= step) throw new Error('killed here')
    const answer = await query(...all)
    done += 1
    return answer
  }
  sequelize.query = cut as unknown as typeof sequelize.query
  try {
    await migrate(database)
    return false
  } catch (error) {
    if (!/killed here/.test(String(error))) throw error
    return true
  } finally {
    sequelize.query = query as unknown as typeof sequelize.query
  }
}

describe('migrations that are killed', () => {
  it.each([
    ['on an empty database', (): Promise<void> => Promise.resolve(), 4],
    [
      'on one of version 1 that is in use',
      async () => {
        await migrate(database, '0007-simulations')
        await storeAsVersion1(database)
      },
      24,
    ],
  ] as const)(
    '%s, after any statement, go on to the same end',
    async (_where, begin, apart) => {
      const dice = new Dice(seed)
      await dropEverything(database)
      await begin()
      await migrate(database)
      const wanted = await everything()
      let cut = true
      for (let step = whole ? 0 : dice.below(apart); cut; step += whole ? 1 : 1 + dice.below(2 * apart)) {
        await dropEverything(database)
        await begin()
        cut = await cutAt(step)
        // Killed once more on the way, as it may be.
        if (cut && dice.chance(0.3)) await cutAt(dice.below(30))
        await migrate(database)
        expect(await everything()).toBe(wanted)
      }
    },
    1_800_000,
  )
})

describe('several servers', () => {
  it('that start at once on an empty database all run', async () => {
    for (let round = 0; round < (whole ? 20 : 2); round++) {
      await dropEverything(database)
      const servers = await Promise.all(Array.from({ length: 4 }, () => Server.start(databaseUrl())))
      for (const server of servers) expect((await fetch(`${server.url}/api/health`)).status).toBe(200)
      await Promise.all(servers.map((server) => server.end()))
    }
  }, 600_000)
  it('of the demo that start at once load it once', async () => {
    await dropEverything(database)
    const more = { CLIMBER_DEMO: '1' }
    const servers = await Promise.all([Server.start(databaseUrl(), more), Server.start(databaseUrl(), more)])
    await Promise.all(servers.map((server) => server.end()))
    expect(await database.models.candidates.count()).toBe(3)
  }, 120_000)
})

describe('several databases on one machine', () => {
  it('have what is temporary in folders of their own: one that starts clears its own', async () => {
    const [row] = await select<{ folder: string }>('SELECT @@tmpdir AS folder')
    expect(row?.folder).toMatch(/climber-test-\w+\/temporary$/)
  })
  it('that are installed at once all start', async () => {
    const script = `import { startDatabase } from './scripts/database.mjs'
      const database = await startDatabase(process.argv[1], { quick: true })
      await database.stop()`
    const installed = () => {
      const folder = mkdtempSync(path.join(os.tmpdir(), 'climber-installed-'))
      const child = spawn(process.execPath, ['--input-type=module', '-e', script, folder], { cwd: root })
      return new Promise((resolve) => child.once('exit', resolve)).finally(() =>
        rmSync(folder, { recursive: true, force: true }),
      )
    }
    expect(await Promise.all([installed(), installed(), installed()])).toEqual([0, 0, 0])
  }, 300_000)
})

describe('the demo', () => {
  const clock = new Clock(now)
  const context = () => ({ ...database, clock, demo: true, samples: path.join(root, 'demo') })
  const own = { email: 'own@mail.example', name: 'Own', password: 'long enough for anyone' }
  it('leaves a database alone that it did not make, and says so', async () => {
    await freshDatabase().then((fresh) => fresh.sequelize.close())
    await signUp(context(), own)
    await expect(Server.start(databaseUrl(), { CLIMBER_DEMO: '1' })).rejects.toThrow(/somebody’s own/)
    expect(await database.models.users.count()).toBe(1)
  })
  it('that was cut short is loaded again, and the next day’s leaves people who came since', async () => {
    await freshDatabase().then((fresh) => fresh.sequelize.close())
    await loadDemo(context())
    await database.sequelize.query("UPDATE facts SET value = 'loading' WHERE name = 'demo'")
    await database.models.candidates.destroy({ where: {}, limit: 1 })
    await loadDemo(context())
    expect(await database.models.candidates.count()).toBe(3)
    const { id } = await signUp(context(), own)
    await loadDemo({ ...context(), clock: new Clock('2030-01-16T10:00:00Z') })
    expect(await database.models.candidates.count()).toBe(3)
    expect(await database.models.users.findByPk(id)).not.toBeNull()
  })
})

describe('what a killed start leaves behind', () => {
  let folder: string
  beforeEach(() => {
    folder = mkdtempSync(path.join(os.tmpdir(), 'climber-left-'))
  })
  afterEach(() => rmSync(folder, { recursive: true, force: true }))
  const running = () => path.join(folder, 'running.json')

  it.each([
    ['nothing', ''],
    ['half a line', '{"pid": 1'],
    ['something else', '[]'],
    ['a process that is gone', JSON.stringify({ pid: 4_190_000, since: '1', url: 'x' })],
    ['a process whose id another one has by now', JSON.stringify({ pid: process.pid, since: '1', url: 'x' })],
    ['what an older version wrote', JSON.stringify({ pid: 4_190_000, url: 'x' })],
  ])('a lock with %s in it is taken over', async (_what, text) => {
    const { take } = await import('../../../scripts/running.mjs')
    writeFileSync(running(), text)
    const held = take(folder, 'http://here')
    expect(held.taken).toBeUndefined()
    expect(JSON.parse(readFileSync(running(), 'utf8'))).toMatchObject({ pid: process.pid })
    expect(take(folder, 'http://there').taken).toBe('http://here')
    held.free?.()
    expect(existsSync(running())).toBe(false)
  })
  it('a secret that was cut short is made anew, a whole one is kept', async () => {
    const { secretIn } = await import('../../../scripts/database.mjs')
    writeFileSync(path.join(folder, 'session-secret'), '')
    const made = secretIn(folder, 'session-secret')
    expect(made.length).toBeGreaterThanOrEqual(48)
    expect(secretIn(folder, 'session-secret')).toBe(made)
    writeFileSync(path.join(folder, 'session-secret'), made.slice(0, 10))
    expect(secretIn(folder, 'session-secret')).not.toBe(made)
  })
})

// Only root can be somebody else.
const elsewhere = process.getuid?.() === 0 ? it : it.skip
elsewhere(
  'a checkout of root can be used by another account, which keeps its data at home',
  async () => {
    const home = mkdtempSync(path.join(os.tmpdir(), 'climber-home-'))
    const checkout = mkdtempSync(path.join(os.tmpdir(), 'climber-checkout-'))
    const nobody = 65_534
    try {
      const run = (command: string, args: string[], more: object = {}) =>
        new Promise<string>((resolve) => {
          const child = spawn(command, args, { cwd: checkout, stdio: 'pipe', ...more })
          let said = ''
          child.stdout.on('data', (text) => (said += String(text)))
          child.stderr.on('data', (text) => (said += String(text)))
          child.once('exit', () => resolve(said))
        })
      await run('chmod', ['755', checkout])
      await run('chown', [String(nobody), home])
      await run('git', ['init', '-q'])
      mkdirSync(path.join(checkout, 'server', 'dist'), { recursive: true })
      mkdirSync(path.join(checkout, 'node_modules'))
      for (const name of ['scripts', 'package-lock.json', 'package.json', '.gitignore'])
        await run('cp', ['-r', path.join(root, name), checkout])
      const asNobody = (code: string) =>
        run(process.execPath, ['--input-type=module', '-e', code], {
          uid: nobody,
          gid: nobody,
          env: { PATH: process.env['PATH'], HOME: home },
        })
      const where = await asNobody("console.log((await import('./scripts/folders.mjs')).dataRoot)")
      expect(where.startsWith(home)).toBe(true)
      // What is missing there cannot be put there by this account, and that is what is said.
      const modules = await asNobody("(await import('./scripts/setup.mjs')).ensureModules()")
      expect(modules).toContain('belongs to another account')
      const build = await asNobody("await (await import('./scripts/setup.mjs')).ensureBuild()")
      expect(build).toContain('belongs to another account')
      // Built by its owner it is taken as it is: git does not mind whose it is.
      const stamp = path.join(checkout, 'server', 'dist', '.stamp')
      const code =
        "const { ensureBuild } = await import('./scripts/setup.mjs'); await ensureBuild(); console.log('built')"
      writeFileSync(
        stamp,
        await run(process.execPath, [
          '--input-type=module',
          '-e',
          "console.log((await import('./scripts/setup.mjs')).sourceDigest())",
        ]).then((text) => text.trim()),
      )
      expect(await asNobody(code)).toContain('built')
    } finally {
      rmSync(home, { recursive: true, force: true })
      rmSync(checkout, { recursive: true, force: true })
    }
  },
  60_000,
)
