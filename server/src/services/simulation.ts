import { setImmediate as breathe } from 'node:timers/promises'
import { isDeepStrictEqual } from 'node:util'
import type { SimulationRequest, SimulationResult, StoredSimulation } from '@climber/contract'
import { PacingProblem, simulation } from '@climber/core'
import type { CandidateRow, SimulationRow } from '../models'
import { conflict, invalid } from '../refusal'
import { type Context, onceOnly } from './context'
import { load, momentOf, recordOf } from './record'

/** Comparisons kept of one candidate; the oldest goes when another comes. */
const mostKept = 20
/** Milliseconds after which a simulation lets other requests through. */
const longestTurn = 12

const answer = ({ id, madeAt, document }: SimulationRow): StoredSimulation => ({
  id,
  madeAt: madeAt.toISOString(),
  result: document,
})

/** Runs a simulation in short turns, so that nobody waits for it; gives up when `wanted` says that nobody does. */
async function inTurns(
  run: Generator<number, SimulationResult>,
  wanted: () => boolean,
): Promise<SimulationResult | undefined> {
  let begun = performance.now()
  for (;;) {
    const step = run.next()
    if (step.done) return step.value
    if (performance.now() - begun < longestTurn) continue
    await breathe()
    if (!wanted()) return undefined
    begun = performance.now()
  }
}

/**
 * Works out a comparison from the stored record and keeps it under the client's id; sent again it is kept once. Nothing is
 * kept, and nothing answered, when the one who asked has gone meanwhile.
 */
export async function saveSimulation(
  context: Context,
  candidate: CandidateRow,
  id: string,
  request: SimulationRequest,
  wanted: () => boolean,
): Promise<StoredSimulation | undefined> {
  const { simulations } = context.models
  const where = { candidateId: candidate.id, id }
  const stored = await simulations.findOne({ where })
  if (stored) {
    if (!isDeepStrictEqual(stored.document.request, request)) throw conflict(answer(stored))
    return answer(stored)
  }
  const loaded = await load(context, candidate)
  const record = recordOf(loaded)
  if (!record.exam.sections.some((section) => section.id === request.section))
    throw invalid([{ field: 'section', message: `the exam has no section ${request.section}` }])
  const now = momentOf(context, loaded)
  let result: SimulationResult | undefined
  try {
    result = await inTurns(simulation(record, now, request), wanted)
  } catch (error) {
    if (error instanceof PacingProblem)
      throw invalid([{ field: `pacing.sections.${request.section}.${error.field}`, message: error.message }])
    throw error
  }
  if (!result) return undefined
  const document = result
  const row = await onceOnly(
    () => simulations.findOne({ where }),
    () => simulations.create({ ...where, madeAt: new Date(context.clock.now()), document }),
  )
  const older = await simulations.findAll({
    where: { candidateId: candidate.id },
    attributes: ['id'],
    order: [
      ['madeAt', 'DESC'],
      ['id', 'ASC'],
    ],
    offset: mostKept,
    limit: 1000,
  })
  if (older.length)
    await simulations.destroy({ where: { candidateId: candidate.id, id: older.map((own) => own.id) } })
  return answer(row)
}

/** What is kept of a candidate, newest first. */
export async function listSimulations(
  { models }: Context,
  candidate: CandidateRow,
): Promise<StoredSimulation[]> {
  const rows = await models.simulations.findAll({
    where: { candidateId: candidate.id },
    order: [
      ['madeAt', 'DESC'],
      ['id', 'ASC'],
    ],
  })
  return rows.map(answer)
}

export async function deleteSimulation(
  { models }: Context,
  candidate: CandidateRow,
  id: string,
): Promise<void> {
  await models.simulations.destroy({ where: { candidateId: candidate.id, id } })
}
