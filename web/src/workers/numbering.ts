import { Card, type ExamFormat, type NumbersQuestion } from '@climber/contract'
import {
  type Checked,
  checkQuestion,
  drawOf,
  judgeNumber,
  type JudgedNumber,
  type QuestionProblem,
  readCards,
  readQuestion,
  type TableProblem,
  writeAnswer,
  writeText,
} from '@climber/core'

/** A question with its numbers drawn. */
export interface DrawnQuestion {
  seed: number
  text: string
  answer: string
  worked: string
  /** What each slip would give. */
  slips: { name: string; value: string }[]
}
/** What is wrong with a question, or what its draws come to: it was checked where it could be read. */
export interface Tried {
  problems: QuestionProblem[]
  checked?: Checked
  draws: DrawnQuestion[]
}

/** Why a question that was kept cannot be asked. */
const noDraw = 'No numbers were found with which this question can be asked. Mend it among the cards.'
/** Problems handed to the screen; the rest are counted. */
const mostShown = 500

function drawn(question: NumbersQuestion, seed: number): DrawnQuestion {
  const read = readQuestion(question)
  const draw = 'problems' in read ? undefined : drawOf(read, seed)
  if ('problems' in read || !draw) throw new Error(noDraw)
  return {
    seed,
    text: writeText(read.text, draw),
    answer: writeAnswer(question, draw.answer),
    worked: writeText(read.worked, draw),
    slips: draw.slips.map(({ name, value }) => ({ name, value: writeAnswer(question, value) })),
  }
}

/** Everything that runs a formula. It is somebody's, perhaps a stranger's: the worker that it runs in can be ended. */
export const numbering = {
  /** Resolves once the worker is there: what comes after is timed. */
  ready: () => true,
  draw: drawn,
  judge(question: NumbersQuestion, seed: number, text: string): JudgedNumber {
    const read = readQuestion(question)
    const draw = 'problems' in read ? undefined : drawOf(read, seed)
    if ('problems' in read || !draw) throw new Error(noDraw)
    return judgeNumber(read, draw, text)
  },
  /** A question as it is being written: what is wrong with it, or its check and some draws. */
  check(question: NumbersQuestion, draws: number, from: number): Tried {
    const read = readQuestion(question)
    if ('problems' in read) return { ...read, draws: [] }
    const seeds = Array.from({ length: draws }, (_, at) => from + at).filter((seed) => drawOf(read, seed))
    return { problems: [], checked: checkQuestion(read), draws: seeds.map((seed) => drawn(question, seed)) }
  },
  readCards(
    exam: Pick<ExamFormat, 'topics'>,
    text: string,
  ): { cards: Card[]; problems: TableProblem[]; more: number } {
    const { cards, problems } = readCards(
      exam,
      text,
      () => crypto.randomUUID(),
      (made) => Card.safeParse(made),
    )
    return {
      cards,
      problems: problems.slice(0, mostShown),
      more: Math.max(0, problems.length - mostShown),
    }
  },
}
export type NumbersWorker = typeof numbering
