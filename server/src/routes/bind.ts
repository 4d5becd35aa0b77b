import type { Request, RequestHandler, Response } from 'express'
import type { Answer, ParsedBody, ParsedParams, Role, RouteName, routes } from '@climber/contract'
import type { Text } from '../aside/task'
import type { CandidateRow, ExamRow, UserRow } from '../models'

type RightOf<N extends RouteName> = (typeof routes)[N]['right']

interface Let<N extends RouteName> {
  params: ParsedParams<N>
  body: ParsedBody<N>
  candidate: RightOf<N> extends `record:${string}` ? CandidateRow : undefined
  role: RightOf<N> extends `record:${string}` ? Role : undefined
  exam: RightOf<N> extends `exam:${string}` ? ExamRow : undefined
}
/** What a handler works with: parsed input, and whoever and whatever its right let through. */
export type HereCall<N extends RouteName> = Let<N> & {
  request: Request
  response: Response
  user: RightOf<N> extends 'anyone' ? UserRow | null : UserRow
}
/** The same in another thread, where there is neither request nor response. */
export type AsideCall<N extends RouteName> = Let<N> & {
  user: RightOf<N> extends 'anyone' ? { id: string | null } : { id: string }
}

/** Mounts routes of the contract by name. */
export interface Bind {
  /** Answered in the server's own thread: what only waits, and has a small body. */
  here<N extends RouteName>(
    name: N,
    handle: (call: HereCall<N>) => Promise<Answer<N>>,
    limits?: RequestHandler[],
  ): void
  /** Answered in another thread: whatever computes, or reads or writes as much as a stranger likes. */
  aside<N extends RouteName>(
    name: N,
    handle: (call: AsideCall<N>) => Promise<Answer<N> | Text>,
    limits?: RequestHandler[],
  ): void
}
