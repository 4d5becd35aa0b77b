import type { Plan, PlanSession, StudyReason } from '@climber/contract'
import {
  followsOf,
  formOfSession,
  isSeen,
  materialOf,
  partOf,
  type PlanInput,
  topicsOf,
  wordsFor,
} from '../src/index'

/** A session with what a test asks of any kind of it, its words made. */
export const flatter = ({ exam, settings, sitting, travelMinutes }: PlanInput) => {
  const words = wordsFor({ exam, forms: exam.forms, settings, sitting, travelMinutes })
  return (session: PlanSession) => ({
    ...session,
    title: words.title(session),
    topics: topicsOf(session),
    form: formOfSession(session),
    of: followsOf(session),
    seen: isSeen(session),
    sections: partOf(session),
    material: materialOf(session),
    why: {
      text: words.why(session),
      figures: ('reason' in session ? (session.reason ?? {}) : {}) as StudyReason,
    },
  })
}
export type FlatSession = ReturnType<ReturnType<typeof flatter>>

/** A plan whose sessions are so. */
export const flatPlan = (input: PlanInput, plan: Plan) => ({
  ...plan,
  sessions: plan.sessions.map(flatter(input)),
})
