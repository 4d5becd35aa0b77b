import { QueryTypes, Sequelize } from 'sequelize'
import { Umzug, SequelizeStorage } from 'umzug'
import type { Logger } from 'pino'
import { up as foundation } from './migrations/0001-foundation'
import { up as invitations } from './migrations/0002-invitations'
import { up as examEditions } from './migrations/0003-exam-editions'
import { up as feeds } from './migrations/0004-feeds'
import { up as planSteps } from './migrations/0005-plan-steps'
import { up as templates } from './migrations/0006-templates'
import { up as simulations } from './migrations/0007-simulations'
import { up as attempts } from './migrations/0008-attempts'
import { up as planPerSitting } from './migrations/0009-plan-per-sitting'
import { up as sessionsByKind } from './migrations/0010-sessions-by-kind'
import { up as rightsAndRequests } from './migrations/0011-rights-and-requests'
import { up as limits } from './migrations/0012-limits'
import { up as requestsTold } from './migrations/0013-requests-told'
import { up as rooms } from './migrations/0014-rooms'
import { up as review } from './migrations/0015-review'
import { up as recall } from './migrations/0016-recall'
import { up as recalled } from './migrations/0017-recalled'
import { up as figures } from './migrations/0018-figures'
import { up as revisions } from './migrations/0019-revisions'
import { up as locale } from './migrations/0020-locale'
import { defineModels, type Models } from './models'

/** In order; a migration that has landed is never edited, a new one is added. */
export const migrations = [
  { name: '0001-foundation', up: foundation },
  { name: '0002-invitations', up: invitations },
  { name: '0003-exam-editions', up: examEditions },
  { name: '0004-feeds', up: feeds },
  { name: '0005-plan-steps', up: planSteps },
  { name: '0006-templates', up: templates },
  { name: '0007-simulations', up: simulations },
  { name: '0008-attempts', up: attempts },
  { name: '0009-plan-per-sitting', up: planPerSitting },
  { name: '0010-sessions-by-kind', up: sessionsByKind },
  { name: '0011-rights-and-requests', up: rightsAndRequests },
  { name: '0012-limits', up: limits },
  { name: '0013-requests-told', up: requestsTold },
  { name: '0014-rooms', up: rooms },
  { name: '0015-review', up: review },
  { name: '0016-recall', up: recall },
  { name: '0017-recalled', up: recalled },
  { name: '0018-figures', up: figures },
  { name: '0019-revisions', up: revisions },
  { name: '0020-locale', up: locale },
]

export interface Database {
  sequelize: Sequelize
  models: Models
}

/** Connects to `url`; times are stored in UTC, text in utf8mb4. */
export function connect(url: string, log: Logger, connections = 10): Database {
  const sequelize = new Sequelize(url.replace(/^mysql:/, 'mariadb:'), {
    dialect: 'mariadb',
    timezone: '+00:00',
    logging: (sql) => log.trace({ sql }),
    define: { charset: 'utf8mb4', collate: 'utf8mb4_unicode_ci' },
    pool: { max: connections, acquire: 8000, idle: 30_000 },
    // Columns with a JSON check would come parsed; models/json.ts does that itself.
    dialectOptions: {
      connectTimeout: 4000,
      socketTimeout: 12_000,
      autoJsonMap: false,
      // Values stay out of what an error says.
      logParam: false,
      // Nobody waits longer for a row that another one holds.
      initSql: 'SET SESSION innodb_lock_wait_timeout = 8',
    },
  })
  return { sequelize, models: defineModels(sequelize) }
}

/** Applies the migrations that this database has not had, up to `to` when given. Returns their names. */
export const migrate = (database: Database, to?: string): Promise<string[]> =>
  alone(database, 'migrations', () => migrateAlone(database, to))

/**
 * Runs `work` while no other server on this database does the same; the lock is the database's own, and goes with the
 * connection that holds it, however that ends.
 */
export const alone = <T>({ sequelize }: Database, name: string, work: () => Promise<T>): Promise<T> =>
  sequelize.transaction(async (transaction) => {
    const held = {
      replacements: [`climber ${sequelize.getDatabaseName()} ${name}`.slice(0, 60)],
      transaction,
    }
    for (;;) {
      const [row] = await sequelize.query<{ got: number | null }>('SELECT GET_LOCK(?, 5) AS got', {
        ...held,
        type: QueryTypes.SELECT,
      })
      if (Number(row?.got) === 1) break
    }
    // A connection that says nothing for long is given up, and the lock with it.
    const awake = setInterval(
      () => void sequelize.query('DO 0', { transaction }).catch(() => undefined),
      4000,
    )
    try {
      return await work()
    } finally {
      clearInterval(awake)
      await sequelize.query('DO RELEASE_LOCK(?)', held)
    }
  })

async function migrateAlone({ sequelize }: Database, to?: string): Promise<string[]> {
  const umzug = new Umzug({
    migrations: migrations.map(({ name, up }) => ({ name, up: () => up(sequelize) })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  })
  const done = await umzug.up(to ? { to } : undefined)
  return done.map(({ name }) => name)
}
