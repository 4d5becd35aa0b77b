import { randomUUID } from 'node:crypto'
import { type Candidate, type RouteName, routes } from '@climber/contract'
import { candidateFile, practiceTest, sample } from '../harness'

/** A request of every route that is as it should be, for a record and an exam of one's own. */
export function requestsOf(candidate: Candidate, calendar: string) {
  const { plan } = candidate
  const session = plan!.sessions[0]!
  const attemptId = randomUUID()
  const version = plan!.version
  const part = { ...(candidate.parts.availability!.document as object) }
  const bodies: Partial<Record<RouteName, object>> = {
    signUp: { email: `${randomUUID()}@mail.example`, password: 'long enough', name: 'X' },
    signIn: { email: `${randomUUID()}@mail.example`, password: 'long enough' },
    demoSignIn: { email: 'tutor@demo.example' },
    saveLocale: { locale: 'en-GB' },
    createExam: { file: sample() },
    saveFormat: { version: 1, newId: randomUUID(), format: sample().exam },
    examEffect: { format: sample().exam },
    moveToEdition: { examId: candidate.examId },
    createCandidate: { name: 'X', examId: candidate.examId, self: false },
    savePart: { version: candidate.parts.availability!.version, document: part },
    makePlan: { version, seed: 1 },
    arrangePlan: { version, moves: [{ id: session.id, pinned: true }] },
    replan: { version, seed: 1, change: { kind: 'off', from: '2030-01-21', to: '2030-01-22' }, mode: 'mend' },
    undoPlan: { version, redo: false },
    readCommitments: { address: calendar },
    saveTemplate: { title: 'Evenings', settings: {} },
    saveSession: { version: session.version, status: 'done', minutesDone: 10 },
    join: { code: 'guessed' },
    readInvitation: { code: 'guessed' },
    saveAttempt: { version: 0, attempt: practiceTest(attemptId) },
    deleteAttempt: { request: randomUUID() },
    importFile: { file: candidateFile() },
    saveSimulation: { section: 'streams', sittings: 100, seed: 1, asOf: 'today' },
  }
  const ids: Record<string, string> = {
    candidateId: candidate.id,
    examId: candidate.examId,
    part: 'availability',
    sessionId: session.id,
    attemptId,
    templateId: randomUUID(),
    simulationId: randomUUID(),
    token: 'a'.repeat(32),
    region: 'AT',
    from: '2031-01-01',
    to: '2031-12-31',
  }
  /** What is made anew has an id of its own, so that it is not answered as what is there. */
  const made: Partial<Record<RouteName, string>> = {
    createCandidate: 'candidateId',
    importFile: 'candidateId',
    createExam: 'examId',
  }
  return (name: RouteName) => {
    const own = { ...ids, ...(made[name] && { [made[name]!]: randomUUID() }) } as Record<string, string>
    return {
      method: routes[name].method,
      path: routes[name].path.replace(/:(\w+)/g, (_, key: string) => own[key] ?? key),
      body: bodies[name],
    }
  }
}

/** Routes that would end the one who asks. */
export const ending: RouteName[] = ['signOut', 'signOutEverywhere', 'deleteCandidate', 'deleteExam']
export const routeNames = Object.keys(routes) as RouteName[]
