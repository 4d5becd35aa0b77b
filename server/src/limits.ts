import type { Request, RequestHandler } from 'express'
import { type Options, rateLimit, type Store } from 'express-rate-limit'
import { createHash } from 'node:crypto'
import { QueryTypes, type Sequelize } from 'sequelize'
import { Refusal } from './refusal'
import { placeOf } from './turns'

const minute = 60_000

/** Counts that all servers on one database keep together. Times are the database's own. */
class DatabaseStore implements Store {
  private windowMs = minute

  constructor(
    private readonly sequelize: Sequelize,
    readonly prefix: string,
  ) {}

  init({ windowMs }: Options): void {
    this.windowMs = windowMs
  }
  private name(key: string): string {
    return createHash('sha256').update(`${this.prefix} ${key}`).digest('hex')
  }
  async increment(key: string): Promise<{ totalHits: number; resetTime: Date }> {
    const name = this.name(key)
    await this.sequelize.query(
      `INSERT INTO limits (name, hits, resets_at)
       VALUES (:name, 1, UTC_TIMESTAMP(3) + INTERVAL :micros MICROSECOND)
       ON DUPLICATE KEY UPDATE hits = IF(resets_at <= UTC_TIMESTAMP(3), 1, hits + 1),
         resets_at = IF(resets_at <= UTC_TIMESTAMP(3), VALUES(resets_at), resets_at)`,
      { replacements: { name, micros: this.windowMs * 1000 } },
    )
    const [row] = await this.sequelize.query<{ hits: number; left: string }>(
      'SELECT hits, TIMESTAMPDIFF(MICROSECOND, UTC_TIMESTAMP(3), resets_at) AS `left` FROM limits WHERE name = :name',
      { replacements: { name }, type: QueryTypes.SELECT },
    )
    return { totalHits: row?.hits ?? 1, resetTime: new Date(Date.now() + Number(row?.left ?? 0) / 1000) }
  }
  async decrement(key: string): Promise<void> {
    await this.sequelize.query('UPDATE limits SET hits = GREATEST(0, hits - 1) WHERE name = ?', {
      replacements: [this.name(key)],
    })
  }
  async resetKey(key: string): Promise<void> {
    await this.sequelize.query('DELETE FROM limits WHERE name = ?', { replacements: [this.name(key)] })
  }
}

const emailOf = (request: Request): string => {
  const email = (request.body as { email?: unknown } | undefined)?.email
  return typeof email === 'string' ? email.trim().toLowerCase().slice(0, 254) : ''
}

/**
 * How often something may be tried; `onlyFailed` does not count what went well. Each limit is told in docs/security.md and
 * has its test.
 */
export function limits(sequelize: Sequelize) {
  const limited = (
    name: string,
    limit: number,
    minutes: number,
    key: (request: Request) => string,
    { onlyFailed = false, message }: { onlyFailed?: boolean; message: string },
  ): RequestHandler =>
    rateLimit({
      windowMs: minutes * minute,
      limit,
      skipSuccessfulRequests: onlyFailed,
      store: new DatabaseStore(sequelize, name),
      keyGenerator: key,
      // What X-Forwarded-For is worth is said by CLIMBER_PROXY.
      validate: { xForwardedForHeader: false, trustProxy: false },
      handler: () => {
        throw new Refusal({ code: 'too-many', message })
      },
    })
  const wait = 'Wait a quarter of an hour.'
  return {
    signIn: [
      // Of all tries, those that were refused among them: each address that is tried is a row for a quarter of an hour.
      limited('sign-in-all', 600, 15, placeOf, {
        onlyFailed: true,
        message: `Too many tries from here. ${wait}`,
      }),
      limited('sign-in', 10, 15, (request) => `${placeOf(request)} ${emailOf(request)}`, {
        onlyFailed: true,
        message: `Too many tries with this address. ${wait}`,
      }),
      // One password tried on many addresses.
      limited('spray', 60, 15, placeOf, { onlyFailed: true, message: `Too many tries from here. ${wait}` }),
    ],
    signUp: [
      limited('sign-up', 60, 60, placeOf, { message: 'Too many new accounts from here. Wait an hour.' }),
    ],
    join: [
      limited('join', 10, 15, (request) => request.session.userId ?? placeOf(request), {
        onlyFailed: true,
        message: `Too many codes tried. ${wait}`,
      }),
      limited('join-here', 60, 15, placeOf, { onlyFailed: true, message: `Too many codes tried. ${wait}` }),
    ],
    fetch: [
      limited('fetch', 60, 60, (request) => request.session.userId ?? placeOf(request), {
        message: 'Calendars were read too often. Wait an hour.',
      }),
    ],
    feed: [
      limited('feed', 600, 15, placeOf, { onlyFailed: true, message: `Too many addresses tried. ${wait}` }),
    ],
  }
}
export type Limits = ReturnType<typeof limits>
