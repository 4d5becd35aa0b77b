import type { Router } from 'express'
import type { Context } from '../services/context'
import { deleteSimulation, listSimulations, saveSimulation } from '../services/simulation'
import { bind } from './bind'

export function pacingRoutes(router: Router, context: Context): void {
  bind(router, context, 'listSimulations', ({ candidate }) => listSimulations(context, candidate))
  bind(router, context, 'saveSimulation', ({ candidate, params, body, response }) =>
    saveSimulation(context, candidate, params.simulationId, body, () => !response.destroyed),
  )
  bind(router, context, 'deleteSimulation', async ({ candidate, params }) => {
    await deleteSimulation(context, candidate, params.simulationId)
    return { ok: true as const }
  })
}
