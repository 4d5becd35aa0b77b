import type { Failure, RouteName } from '@climber/contract'
import type { ReadCommitments } from '@climber/core'

/** A request whose right has been asked for already, as it goes to a thread of its own. */
export interface RouteTask {
  route: RouteName
  params: Record<string, string>
  /** JSON as it came. */
  body: Uint8Array | undefined
  userId: string | null
  candidateId?: string
  examId?: string
}

/** What a thread answers: text that goes out as it is, a refusal, or a fault as it may stand in a log. */
export type RouteResult =
  { text: string; type: string; filename?: string } | { failure: Failure } | { fault: object }

/** A calendar that somebody brought, to be read between two days. */
export interface CalendarTask {
  text: string
  zone: string
  firstDate: string
  lastDate: string
  /** Holds the line that reading has come to, for whoever has to break it off. */
  line?: Int32Array<SharedArrayBuffer>
}
export type CalendarResult = ReadCommitments

/** An answer that is not JSON. */
export class Text {
  constructor(
    readonly text: string,
    readonly type: string,
    readonly filename?: string,
  ) {}
}

/** What does requests beside the server's own thread. */
export interface Aside {
  /**
   * Runs `work` within the share of an account, after what it asked for before; a body of `bytes` is not read before. Refuses at
   * once where there is no room.
   */
  within<T>(account: string, route: RouteName, bytes: number, work: () => Promise<T>): Promise<T>
  /** Does a request in another thread. */
  route(task: RouteTask, signal?: AbortSignal): Promise<RouteResult>
  calendar(account: string, task: CalendarTask): Promise<CalendarResult>
  /** Brings some of the figures of lists to the day that has begun; how many, none where all are of today. */
  figures(): Promise<number>
  close(): Promise<void>
}
