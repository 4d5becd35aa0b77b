import { isDeepStrictEqual } from 'node:util'
import type { SimulationRequest, SimulationResult, StoredSimulation } from '@climber/contract'
import { PacingProblem, simulation } from '@climber/core'
import type { CandidateRow, SimulationRow } from '../models'
import { conflict, invalid } from '../refusal'
import { type Context, lockCandidate, together } from './context'
import { load, momentOf, recordOf } from './record'

/** Comparisons kept of one candidate; the oldest goes when another comes. */
const mostKept = 20

const answer = ({ id, madeAt, document }: SimulationRow): StoredSimulation => ({
  id,
  madeAt: madeAt.toISOString(),
  result: document,
})

function workedOut(run: Generator<number, SimulationResult>): SimulationResult {
  let step = run.next()
  while (!step.done) step = run.next()
  return step.value
}

/**
 * Works out a comparison from the stored record and keeps it under the client's id; sent again it is kept once. It is
 * worked out in a thread of its own, which is ended when the one who asked has gone: then nothing is kept.
 */
export async function saveSimulation(
  context: Context,
  candidate: CandidateRow,
  id: string,
  request: SimulationRequest,
): Promise<StoredSimulation> {
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
  let document: SimulationResult
  try {
    document = workedOut(simulation(record, now, request))
  } catch (error) {
    if (error instanceof PacingProblem)
      throw invalid([{ field: `pacing.sections.${request.section}.${error.field}`, message: error.message }])
    throw error
  }
  return together(context, async (transaction) => {
    const { id: candidateId } = await lockCandidate(context, candidate, transaction)
    const other = await simulations.findOne({ where, transaction })
    if (other && !isDeepStrictEqual(other.document.request, request)) throw conflict(answer(other))
    if (other) return answer(other)
    const row = await simulations.create(
      { ...where, madeAt: new Date(context.clock.now()), document },
      { transaction },
    )
    const older = await simulations.findAll({
      where: { candidateId },
      attributes: ['id'],
      order: [
        ['madeAt', 'DESC'],
        ['id', 'ASC'],
      ],
      offset: mostKept,
      limit: 1000,
      transaction,
    })
    if (older.length)
      await simulations.destroy({ where: { candidateId, id: older.map((own) => own.id) }, transaction })
    return answer(row)
  })
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
