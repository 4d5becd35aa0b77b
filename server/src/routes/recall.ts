import type { Context } from '../services/context'
import { answerCards, readRecall, saveCards } from '../services/recall'
import type { Bind } from './bind'

export function recallRoutes(bind: Bind, context: Context): void {
  bind.aside('readRecall', ({ candidate }) => readRecall(context, candidate))
  bind.aside('saveCards', ({ candidate, body }) => saveCards(context, candidate, body))
  bind.aside('answerCards', ({ candidate, body }) => answerCards(context, candidate, body.answers))
}
