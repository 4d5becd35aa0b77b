import type { ExamFormat } from '@climber/contract'
import { square } from '../exact/functions'
import { choicesOf, groupsOf } from '../scoring/raw'
import type { DiagnosisResult } from './diagnose'
import { posteriorOf } from './posterior'

export interface TellingQuestions {
  topic: string
  /** How many of the questions are on this topic. */
  questions: number
  /** Expected drop in the variance of today's composite, in points squared, from these questions together. */
  drop: number
  /** The same as a share of the whole variance. */
  share: number
}

export interface Telling {
  topics: TellingQuestions[]
  /** Standard deviation of today's composite over what is unknown of the topics: now, and expected after the questions. */
  sd: number
  sdAfter: number
}

/** Expected variance of k after 0, 1, 2, ... more questions, each state of right and wrong answers weighed by its chance. */
function* expectedVariances(
  priorMean: number,
  evidence: { right: number; wrong: number; skipped: number },
  choices: number,
  strength: number,
): Generator<number> {
  let chances = [1]
  for (let asked = 0; ; asked++) {
    const states = chances.map((_, right) =>
      posteriorOf(
        priorMean,
        [{ ...evidence, right: evidence.right + right, wrong: evidence.wrong + asked - right, choices }],
        strength,
      ),
    )
    yield chances.reduce((sum, chance, right) => sum + chance * square(states[right]!.sd), 0)
    const next = new Array<number>(chances.length + 1).fill(0)
    chances.forEach((chance, right) => {
      const { mean } = states[right]!
      const hit = mean + (1 - mean) / choices
      next[right + 1]! += chance * hit
      next[right]! += chance * (1 - hit)
    })
    chances = next
  }
}

/**
 * The `count` questions that would tell most: chosen one after the other, each from the topic whose next question is
 * expected to take most off the variance of the composite. `values` are composite points of each topic if fully known, in
 * the exam's order. Topics are taken as independent given what was answered. Source: docs/models.md, 2.
 */
export function tellingQuestions(
  exam: ExamFormat,
  diagnosis: DiagnosisResult,
  values: number[],
  count = 10,
): Telling {
  const states = new Map(diagnosis.topics.map((state) => [state.topic, state]))
  const choices = new Map(exam.sections.map((section) => [section.id, choicesOf(groupsOf(section))]))
  const topics = exam.topics.map((topic, at) => {
    const state = states.get(topic.id)!
    const steps = expectedVariances(
      state.priorMean,
      state.evidence,
      choices.get(topic.section)!,
      state.priorStrength,
    )
    const weight = square(values[at]!)
    const first = weight * (steps.next().value as number)
    const second = weight * (steps.next().value as number)
    return { id: topic.id, steps, weight, start: first, now: first, next: second, questions: 0 }
  })
  const total = topics.reduce((sum, { start }) => sum + start, 0)
  for (let asked = 0; asked < count && topics.length; asked++) {
    const best = topics.reduce((a, b) => (b.now - b.next > a.now - a.next ? b : a))
    best.questions += 1
    best.now = best.next
    best.next = best.weight * (best.steps.next().value as number)
  }
  const drops = topics.reduce((sum, { start, now }) => sum + start - now, 0)
  return {
    sd: Math.sqrt(total),
    sdAfter: Math.sqrt(Math.max(0, total - drops)),
    topics: topics
      .filter(({ questions }) => questions > 0)
      .map(({ id, questions, start, now }) => ({
        topic: id,
        questions,
        drop: start - now,
        share: total > 0 ? (start - now) / total : 0,
      }))
      .sort((a, b) => b.drop - a.drop),
  }
}
