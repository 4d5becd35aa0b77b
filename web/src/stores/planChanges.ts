import type { Basis, ChangedPlan, Move, PlanChange, StoredPlan } from '@climber/contract'
import { usualSeed } from '@climber/core'
import { call, isPassing } from '../api'

/** Plans are made with one seed, so that what is spoken of and previewed is what is stored. */
export const planSeed = usualSeed

/** The open plan as its changes see it. */
export interface PlanHolder {
  candidateId(): string
  plan(): StoredPlan | null
  /** What the server stored. */
  take(changed: ChangedPlan): Promise<void>
}

/**
 * Changes of the plan. Each is sent under an id of its own; where the answer was lost and the same is asked for again, it goes
 * under the same id, so that the server does it once and answers as the first time.
 */
export function planChanges({ candidateId, plan, take }: PlanHolder) {
  let unanswered: { asked: string; request: string } | undefined

  async function once<B extends object>(
    name: string,
    body: B,
    send: (body: B & { version: number; request: string }) => Promise<ChangedPlan>,
  ): Promise<void> {
    const version = plan()?.version ?? 0
    const asked = JSON.stringify([name, candidateId(), version, body])
    const request = unanswered?.asked === asked ? unanswered.request : crypto.randomUUID()
    unanswered = { asked, request }
    try {
      const changed = await send({ ...body, version, request })
      unanswered = undefined
      await take(changed)
    } catch (error) {
      if (!isPassing(error)) unanswered = undefined
      throw error
    }
  }
  const params = () => ({ candidateId: candidateId() })

  return {
    /** Makes the plan anew from today and keeps it. */
    makePlan: () =>
      once('make', { seed: planSeed }, async (body) => ({
        plan: await call('makePlan', params(), body),
        availability: null,
      })),
    /** Moves sessions by hand. */
    arrangePlan: (moves: Move[]) => once('arrange', { moves }, (body) => call('arrangePlan', params(), body)),
    /** Mends the plan or makes it anew, with days called off, as it was previewed on `basis`. */
    replanNow: (change: PlanChange, mode: 'mend' | 'anew', basis: Basis) =>
      once('replan', { seed: planSeed, change, mode, basis }, (body) => call('replan', params(), body)),
    undoPlan: (redo: boolean) => once('undo', { redo }, (body) => call('undoPlan', params(), body)),
  }
}
