import type { Context } from '../services/context'
import { deleteSimulation, listSimulations, saveSimulation } from '../services/simulation'
import type { Bind } from './bind'

export function pacingRoutes(bind: Bind, context: Context): void {
  bind.aside('listSimulations', ({ candidate }) => listSimulations(context, candidate))
  bind.aside('saveSimulation', ({ candidate, params, body }) =>
    saveSimulation(context, candidate, params.simulationId, body),
  )
  bind.here('deleteSimulation', async ({ candidate, params }) => {
    await deleteSimulation(context, candidate, params.simulationId)
    return { ok: true as const }
  })
}
