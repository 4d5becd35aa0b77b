import { lookup } from 'node:dns'
import http from 'node:http'
import https from 'node:https'
import { BlockList, isIP, type LookupFunction } from 'node:net'
import { invalid } from '../refusal'

const largest = 8_000_000
const patienceMs = 12_000
const mostRedirects = 4

/** Addresses inside a house, or of no house: this server must not be made to look round there for somebody outside. */
const inside = new BlockList()
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.0.2.0', 24],
  ['192.88.99.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['198.51.100.0', 24],
  ['203.0.113.0', 24],
  ['224.0.0.0', 3],
] as const)
  inside.addSubnet(net, bits, 'ipv4')
// Of the sixth version only 2000::/3 lies outside at all; these parts of it do not, or lead to addresses of the fourth.
for (const [net, bits] of [
  ['2001::', 23],
  ['2001:db8::', 32],
  ['2002::', 16],
  ['3fff::', 20],
] as const)
  inside.addSubnet(net, bits, 'ipv6')
const outside6 = new BlockList()
outside6.addSubnet('2000::', 3, 'ipv6')

/** Whether an IP address lies inside; what is no address does too. */
export function isInside(address: string): boolean {
  const bare = address.replace(/%.*$/, '')
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(bare)?.[1]
  const plain = mapped ?? bare
  const family = isIP(plain)
  if (family === 4) return inside.check(plain, 'ipv4')
  return family !== 6 || !outside6.check(plain, 'ipv6') || inside.check(plain, 'ipv6')
}

const problem = (message: string) => invalid([{ field: 'address', message }])
const lies = () => problem('this address lies inside the network of the server; it is not read from there')

/** Looks a name up and refuses what lies inside; done as the connection is made, so that the answer cannot change between. */
const outsideOnly: LookupFunction = (host, options, done) =>
  lookup(host, { ...options, all: true }, (error, addresses) => {
    if (error) return done(error, '', 4)
    const [first] = addresses
    if (!first || addresses.some(({ address }) => isInside(address)))
      return done(Object.assign(new Error('inside'), { code: 'INSIDE' }), '', 4)
    return options.all ? done(null, addresses) : done(null, first.address, first.family)
  })

/** An address as somebody typed it, or as another server sends one on to it: the one place where such are read. */
function addressOf(text: string, base?: URL): URL {
  let url: URL
  try {
    url = new URL(text, base)
  } catch {
    throw problem(base ? 'it leads to an address that is none' : 'this is no address')
  }
  if (url.protocol !== 'https:' && url.protocol !== 'http:')
    throw problem('it leads to an address that is not http')
  return url
}

const reasons: Record<string, () => Error> = {
  INSIDE: lies,
  LARGE: () => problem(`the calendar is larger than ${largest / 1_000_000} MB`),
  LATE: () => problem(`no whole answer within ${patienceMs / 1000} seconds`),
}
const reasonOf = (error: NodeJS.ErrnoException): Error =>
  reasons[error.code ?? '']?.() ?? problem(`it cannot be reached (${error.code ?? 'no answer'})`)
const failed = (code: string) => Object.assign(new Error(code), { code })

/** One answer: the text, or the address that it sends on to. Whatever happens to the connection, it settles. */
function ask(
  url: URL,
  mayInside: boolean,
  signal: AbortSignal,
): Promise<{ text: string } | { next: string }> {
  const { get } = url.protocol === 'https:' ? https : http
  return new Promise((resolve, reject) => {
    const request = get(url, {
      signal,
      agent: false,
      headers: { accept: 'text/calendar, text/plain;q=0.5' },
      ...(!mayInside && { lookup: outsideOnly }),
    })
    request.on('error', reject)
    request.on('close', () => reject(failed('ECONNRESET')))
    request.on('response', (response) => {
      const { statusCode = 0, headers } = response
      if (statusCode !== 200) {
        const { location } = headers
        const onward = statusCode >= 300 && statusCode < 400 && location
        if (onward) resolve({ next: location })
        else reject(problem(`the other server answers ${statusCode}; is the address complete?`))
        request.destroy()
        return
      }
      const chunks: Buffer[] = []
      let size = 0
      response.on('data', (chunk: Buffer) => {
        size += chunk.length
        if (size > largest) request.destroy(failed('LARGE'))
        else chunks.push(chunk)
      })
      response.on('error', reject)
      response.on('end', () =>
        response.complete
          ? resolve({ text: Buffer.concat(chunks).toString('utf8') })
          : reject(failed('ECONNRESET')),
      )
    })
  })
}

/**
 * The text at an address, through a few redirections, in `patienceMs` altogether. Refused, naming the address, where it cannot
 * be had; never rejects with anything else.
 */
export async function fetchCalendar(address: string, mayInside: boolean): Promise<string> {
  const late = AbortSignal.timeout(patienceMs)
  let url = addressOf(address)
  for (let redirects = 0; redirects <= mostRedirects; redirects++) {
    const bare = url.hostname.replace(/^\[|\]$/g, '')
    if (!mayInside && isIP(bare) && isInside(bare)) throw lies()
    let found: Awaited<ReturnType<typeof ask>>
    try {
      found = await ask(url, mayInside, late)
    } catch (error) {
      if (late.aborted) throw reasonOf(failed('LATE'))
      throw error instanceof Error && 'failure' in error ? error : reasonOf(error as NodeJS.ErrnoException)
    }
    if ('text' in found) return found.text
    url = addressOf(found.next, url)
  }
  throw problem('it leads on and on to other addresses')
}
