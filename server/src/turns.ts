import type { Express, Request, Response } from 'express'
import { ipKeyGenerator } from 'express-rate-limit'
import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http'
import type { Socket } from 'node:net'
import proxyAddress from 'proxy-addr'
import { Shares } from './aside/shares'
import { statusOfFailure } from './failures'
import { Refusal } from './refusal'

/** Requests of one place that the server's own thread works at, and that wait behind them. */
const ofPlace = { atOnce: 16, waiting: 500, bytes: Infinity }
/** Requests of one connection that are not answered yet: browsers send one, and proxies too. */
const ofConnection = 32

/** Where a request comes from: its address, of IPv6 the network. */
export const placeOf = (request: Request): string => ipKeyGenerator(request.ip ?? '')

/** The right of one request to the server's own thread. It is left while others do the work, or the sender is slow. */
class Turn {
  private free: (() => void) | undefined
  private over = false

  constructor(
    private readonly shares: Shares,
    private readonly place: string,
  ) {}

  /** Waits until it is this request's turn; refused where too many of its place wait already. */
  take(): Promise<void> {
    return new Promise((begin, refuse) => {
      const held = () =>
        new Promise<void>((free) => {
          if (this.over) free()
          else this.free = free
          // Not in the same breath as the one before, which may have needed nothing to wait for: others are heard in between.
          setImmediate(begin)
        })
      this.shares.run(this.place, 0, held).catch(refuse)
    })
  }
  leave(): void {
    this.free?.()
  }
  /** The request is answered, or nobody waits for its answer any more. */
  end(): void {
    this.over = true
    this.leave()
  }
}

const turns = new WeakMap<ServerResponse, Turn>()
/** Gives the thread to others, for as long as the request waits for something. */
export const leaveTurn = (response: Response): void => turns.get(response)?.leave()
/** Waits for the thread again. */
export const takeTurn = async (response: Response): Promise<void> => turns.get(response)?.take()

/** Answers that are not over, by connection. */
class Connections {
  private readonly open = new WeakMap<Socket, Set<ServerResponse>>()

  of(socket: Socket): Set<ServerResponse> {
    const known = this.open.get(socket)
    if (known) return known
    const own = new Set<ServerResponse>()
    this.open.set(socket, own)
    // Answers that wait behind others of their connection have no socket yet, and Node tells them nothing of its end.
    socket.once('close', () => own.forEach((response) => response.socket ?? response.emit('close')))
    return own
  }
}

function refuse(response: ServerResponse, error: unknown): void {
  if (!(error instanceof Refusal)) throw error
  response.writeHead(statusOfFailure(error.failure), { 'content-type': 'application/json' })
  response.end(JSON.stringify(error.failure))
}

/**
 * Lets each place have its turn before anything else is done for it: who asks a thousand things at once waits for themselves, and
 * nobody for them. A connection on which requests pile up without waiting for answers is ended.
 */
export function inTurn(app: Express): RequestListener {
  const shares = new Shares(ofPlace)
  const connections = new Connections()
  const trusted = app.get('trust proxy fn') as (address: string, index: number) => boolean
  return (request: IncomingMessage, response) => {
    const { socket } = request
    // What was read together with the one that was too many.
    if (socket.destroyed) return
    const open = connections.of(socket)
    if (open.size >= ofConnection) {
      socket.destroy()
      return
    }
    const turn = new Turn(shares, ipKeyGenerator(proxyAddress(request, trusted)))
    open.add(response)
    turns.set(response, turn)
    response.once('close', () => {
      turn.end()
      open.delete(response)
    })
    const end = response.end.bind(response) as (...given: unknown[]) => ServerResponse
    // A visitor who does not read the answer keeps nobody of their place waiting.
    response.end = ((...given: unknown[]) => {
      turn.end()
      return end(...given)
    }) as typeof response.end
    turn.take().then(
      () => socket.destroyed || app(request, response),
      (error: unknown) => refuse(response, error),
    )
  }
}
