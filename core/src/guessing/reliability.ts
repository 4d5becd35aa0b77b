import type { CandidateRecord, Confidence, ItemResponse } from '@climber/contract'
import { groupsOf } from '../scoring/raw'
import { isPaper } from '../attempts/sat'
import { countResponses, judge } from '../attempts/responses'

/** A rate of right answers, as measured and shrunk. */
export interface Rate {
  rate: number
  answers: number
  right: number
  /** The candidate set it, rather than the record. */
  set?: boolean
}
export interface Reliability {
  sure: Rate
  betweenTwo: Rate
  /** Share right of items answered without being sure, by number of options. */
  unsolved: Map<number, number>
}

/** What is believed of somebody unmeasured, as strong as so many answers. */
const priors: Record<'sure' | 'betweenTwo', { rate: number; strength: number }> = {
  sure: { rate: 0.95, strength: 10 },
  betweenTwo: { rate: 0.5, strength: 10 },
}
const unsolvedStrength = 12

/** How often this candidate is right when sure, between two, and without an idea; from answers that say how sure they were. */
export function reliabilityOf(record: CandidateRecord): Reliability {
  const { exam, attempts, guessing } = record
  const counted = new Map<string, { answers: number; right: number }>()
  const count = (key: string, right: boolean) => {
    const own = counted.get(key) ?? { answers: 0, right: 0 }
    own.answers += 1
    if (right) own.right += 1
    counted.set(key, own)
  }
  const read = (responses: ItemResponse[] = [], formId?: string) => {
    if (!responses.some(({ confidence }) => confidence)) return
    const form = exam.forms.find(({ id }) => id === formId)
    const byItem = new Map(responses.map((response) => [response.item, response]))
    for (const { item, group } of countResponses(exam, responses, form).slots) {
      const response = byItem.get(item)
      if (!response?.confidence || group.kind === 'written') continue
      const judged = judge(group, response)
      if (judged === 'blank') continue
      count(response.confidence satisfies Confidence, judged === 'right')
      if (response.confidence !== 'sure' && group.choices) count(`of ${group.choices}`, judged === 'right')
    }
  }
  for (const { items, form } of attempts.filter(isPaper)) read(items, form)

  const rateOf = (key: 'sure' | 'betweenTwo', of: Confidence): Rate => {
    const { answers, right } = counted.get(of) ?? { answers: 0, right: 0 }
    const { rate, strength } = priors[key]
    const own = guessing[key]
    return {
      answers,
      right,
      rate: own ?? (right + rate * strength) / (answers + strength),
      ...(own !== undefined && { set: true }),
    }
  }
  const choices = new Set(exam.sections.flatMap(groupsOf).flatMap((group) => group.choices ?? []))
  return {
    sure: rateOf('sure', 'sure'),
    betweenTwo: rateOf('betweenTwo', 'between two'),
    unsolved: new Map(
      [...choices].map((options) => {
        const { answers, right } = counted.get(`of ${options}`) ?? { answers: 0, right: 0 }
        return [options, (right + unsolvedStrength / options) / (answers + unsolvedStrength)]
      }),
    ),
  }
}
