import { lookup } from 'node:dns'
import http from 'node:http'
import https from 'node:https'
import { BlockList, isIP, type LookupFunction } from 'node:net'
import { dateOf, dayNumber, readCommitments as readText } from '@climber/core'
import type { CandidateRow } from '../models'
import { invalid } from '../refusal'
import type { Context } from './context'
import { load, recordOf } from './record'

const largest = 8_000_000
const patienceMs = 12_000
const mostRedirects = 4
/** Days ahead for which commitments are kept. */
const daysAhead = 800

/** Addresses inside a house: this server must not be made to look round there for somebody outside. */
const inside = new BlockList()
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['224.0.0.0', 3],
] as const)
  inside.addSubnet(net, bits, 'ipv4')
for (const [net, bits] of [
  ['::', 127],
  ['64:ff9b::', 96],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  inside.addSubnet(net, bits, 'ipv6')

const isInside = (address: string): boolean => {
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1]
  const plain = mapped ?? address
  return inside.check(plain, isIP(plain) === 6 ? 'ipv6' : 'ipv4')
}

const problem = (message: string) => invalid([{ field: 'address', message }])

/** Looks a name up and refuses what lies inside; done as the connection is made, so that the answer cannot change between. */
const outsideOnly: LookupFunction = (host, options, done) =>
  lookup(host, { ...options, all: true }, (error, addresses) => {
    if (error) return done(error, '', 4)
    const bad = addresses.find(({ address }) => isInside(address))
    if (bad) return done(Object.assign(new Error('inside'), { code: 'INSIDE' }), '', 4)
    const [first] = addresses
    return options.all ? done(null, addresses) : done(null, first!.address, first!.family)
  })

function fetchText(address: string, mayInside: boolean, redirects = 0): Promise<string> {
  const url = new URL(address)
  const bare = url.hostname.replace(/^\[|\]$/g, '')
  if (!mayInside && isIP(bare) && isInside(bare))
    return Promise.reject(
      problem('this address lies inside the network of the server; it is not read from there'),
    )
  const { get } = url.protocol === 'https:' ? https : http
  return new Promise((resolve, reject) => {
    const request = get(
      url,
      {
        timeout: patienceMs,
        headers: { accept: 'text/calendar, text/plain;q=0.5' },
        ...(!mayInside && { lookup: outsideOnly }),
      },
      (response) => {
        const { statusCode = 0, headers } = response
        if (statusCode >= 300 && statusCode < 400 && headers.location) {
          response.resume()
          if (redirects >= mostRedirects) return reject(problem('it leads on and on to other addresses'))
          const next = new URL(headers.location, url)
          if (!/^https?:$/.test(next.protocol))
            return reject(problem('it leads to an address that is not http'))
          return resolve(fetchText(next.href, mayInside, redirects + 1))
        }
        if (statusCode !== 200) {
          response.resume()
          return reject(problem(`the other server answers ${statusCode}; is the address complete?`))
        }
        const chunks: Buffer[] = []
        let size = 0
        response.on('data', (chunk: Buffer) => {
          size += chunk.length
          if (size > largest) request.destroy(Object.assign(new Error('large'), { code: 'LARGE' }))
          else chunks.push(chunk)
        })
        response.on('end', () => resolve(Buffer.concat(chunks).toString('utf8')))
        response.on('error', reject)
      },
    )
    const clock = setTimeout(
      () => request.destroy(Object.assign(new Error('late'), { code: 'LATE' })),
      patienceMs,
    )
    request.on('close', () => clearTimeout(clock))
    request.on('error', (error: NodeJS.ErrnoException) =>
      reject(
        problem(
          error.code === 'INSIDE'
            ? 'this address lies inside the network of the server; it is not read from there'
            : error.code === 'LARGE'
              ? `the calendar is larger than ${largest / 1_000_000} MB`
              : error.code === 'LATE'
                ? `no whole answer within ${patienceMs / 1000} seconds`
                : `it cannot be reached (${error.code ?? error.message})`,
        ),
      ),
    )
  })
}

/** Reads a calendar of commitments at its private address. Stores nothing; anything broken in it refuses the whole. */
export async function readCommitments(context: Context, candidate: CandidateRow, address: string) {
  const { availability } = recordOf(await load(context, candidate))
  const text = await fetchText(address, context.demo || context.readsInside === true)
  const { date } = context.clock.at(availability.zone)
  const { busy, events, problems } = readText(
    text,
    availability.zone,
    date,
    dateOf(dayNumber(date) + daysAhead),
  )
  if (problems.length)
    throw invalid(
      problems
        .slice(0, 20)
        .map(({ line, event, message }) => ({ field: `line ${line}`, message: `${event}: ${message}` })),
    )
  return { busy, events, readAt: new Date(context.clock.now()).toISOString() }
}
