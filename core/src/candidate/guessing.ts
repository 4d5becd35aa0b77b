import type { AimChoice, ItemGroup } from '@climber/contract'
import { type GuessTable, guessTable, ruleCost, ruleOf, sentenceOf } from '../guessing/table'
import { type Answers, gainOf, mixOdds, type MixOdds, type Worth } from '../guessing/paper'
import { type Rate, reliabilityOf } from '../guessing/reliability'
import { type Situation, situationsOf } from '../guessing/trainer'
import { likeliest, stageChances } from '../scoring/expected'
import { rawNeeded } from '../scoring/needed'
import { blindGuess, groupsOf } from '../scoring/raw'
import {
  aimsOf,
  type NamedTable,
  namedTables,
  type SectionAim,
  stricterBy,
  strictest,
  usualAim,
  worthOfScaled,
} from './aim'
import { type Assessment, assess } from './assessment'
import type { CandidateRecord, Moment } from './moment'

/** One group of items as guessing sees it; plain data, all that the tables need. */
export interface GuessGround {
  section: string
  title: string
  group: ItemGroup
  /** Nothing to weigh: the advice in a sentence, and why. */
  plain?: string
  /** The rest of the section, answered in any case, by today's knowledge. */
  others: Answers[]
  sure: Rate
  betweenTwo: Rate
  aim: SectionAim
  /** What the section is sat for unless another aim is chosen. */
  usual: { kind: 'score'; scaled: number }
  tables: NamedTable[]
  /** Groups that the raw marks come from, for the least raw of a score. */
  way: ItemGroup[]
}

const marksWords = (marks: number): string => {
  const thirds = Math.round(marks * 12) / 12
  const known: [number, string][] = [
    [1 / 4, 'a quarter'],
    [1 / 3, 'a third'],
    [1 / 2, 'half'],
    [2 / 3, 'two thirds'],
    [3 / 4, 'three quarters'],
  ]
  return (
    known.find(([value]) => Math.abs(value - thirds) < 1e-6 && Math.abs(marks - value) < 1e-3)?.[1] ??
    String(Number(marks.toFixed(3)))
  )
}

/** The advice for items where nothing has to be weighed; undefined where an answer has a price. */
export function plainAdvice(group: ItemGroup): string | undefined {
  const blank = group.perBlank ?? 0
  if (group.kind === 'written')
    return 'Written answers: write something for every part. Marks are given for what is there, and nothing is taken off.'
  if (group.kind === 'numeric') {
    if (group.perWrong === 0 && blank <= 0)
      return 'Numbers cannot be guessed, but nothing is taken off either: write your best value on every item.'
    return `Numbers cannot be guessed: a wrong one costs ${marksWords(group.perWrong + Math.max(0, blank))}. Answer when you are sure, leave the others.`
  }
  if (group.perWrong === 0 && blank <= 0)
    return 'Nothing is taken off for a wrong answer: answer every item, and keep half a minute for the last blanks.'
  return undefined
}

/** What the other groups of a section bring: known items right, the others guessed where that pays. */
function othersOf(groups: ItemGroup[], known: number, sure: number): { answers: Answers[]; blank: number } {
  const answers: Answers[] = []
  let blank = 0
  for (const group of groups) {
    const { items, perRight, perWrong, perBlank = 0 } = group
    if (group.kind === 'written') {
      answers.push({ items: Math.round(items * perRight), chance: known, perRight: 1, perWrong: 0 })
      continue
    }
    const guess = group.kind === 'choice' ? 1 / group.choices! : 0
    const pays = group.kind === 'choice' && blindGuess(group) > Math.max(0, perBlank) + 1e-9
    if (pays || (perWrong === 0 && perBlank <= 0))
      answers.push({ items, chance: known + (1 - known) * guess, perRight, perWrong })
    else {
      const safe = Math.round(items * known)
      answers.push({ items: safe, chance: sure, perRight, perWrong })
      blank += (items - safe) * perBlank
    }
  }
  return { answers, blank }
}

/** Every item group of a section with what guessing needs of it, those with something to weigh first. */
export function groundsOf(record: CandidateRecord, now: Moment): GuessGround[] {
  return groundsFrom(assess(record, now))
}

export function groundsFrom(assessment: Assessment): GuessGround[] {
  const { record, landscape, known } = assessment
  const { exam } = record
  const { sure, betweenTwo } = reliabilityOf(record)
  const aims = aimsOf(assessment)
  return exam.sections.flatMap((section, at) => {
    const share = landscape.sectionKnown(at, known)
    const stage = section.stages?.[likeliest(stageChances(section, share))]
    const way = [...section.groups, ...(stage?.groups ?? [])]
    const all = groupsOf(section)
    const named = all.filter((group) => plainAdvice(group) === undefined || way.includes(group))
    const grounds = named.map((group): GuessGround => {
      const own = section.stages?.find(({ groups }) => groups.includes(group)) ?? stage
      const met = own ? [...section.groups, ...own.groups] : section.groups
      const { answers, blank } = othersOf(
        met.filter((one) => one !== group),
        share,
        sure.rate,
      )
      const plain = plainAdvice(group)
      const parts = met.length > 1 ? `, part ${met.indexOf(group) + 1}` : ''
      return {
        section: section.id,
        title: `${section.title}${own && own.groups.includes(group) ? `, ${own.title}` : parts}`,
        group,
        ...(plain && { plain }),
        // Blanks of the others are a constant, told as one sure answer that earns it.
        others: blank ? [...answers, { items: 1, chance: 1, perRight: blank, perWrong: 0 }] : answers,
        sure,
        betweenTwo,
        aim: aims[at]!,
        usual: usualAim(aims[at]!),
        tables: namedTables(exam, own ?? section),
        way: met,
      }
    })
    return grounds.sort((a, b) => Number(Boolean(a.plain)) - Number(Boolean(b.plain)))
  })
}

/** What is asked of a ground; everything that can be asked "what if". */
export interface GuessQuestion {
  aim: AimChoice
  /** Id of the conversion table; the strictest for the aim when absent. */
  conversion?: string
  /** Raw marks more that are asked for everything. */
  stricter?: number
  /** Rates in place of the measured ones. */
  sure?: number
  betweenTwo?: number
  /** Options left on an unsure item of the table. */
  left: number
}

/** Chance that an answer with so many options left is right: measured between two, else all alike. */
export const chanceOf = (left: number, betweenTwo: number): number => (left === 2 ? betweenTwo : 1 / left)

const conversionOf = (ground: GuessGround, { conversion, aim }: GuessQuestion): NamedTable =>
  ground.tables.find(({ id }) => id === conversion) ??
  (aim.kind === 'score' ? strictest(ground.tables, { groups: ground.way }, aim.scaled) : ground.tables[0]!)

function worthOf(
  ground: GuessGround,
  question: GuessQuestion,
  { conversion }: NamedTable = conversionOf(ground, question),
): Worth {
  const toScaled = stricterBy(conversion, question.stricter ?? 0)
  const worth = worthOfScaled(ground.aim, question.aim)
  return (raw) => worth(toScaled(raw))
}

export interface GuessAdvice {
  table: GuessTable
  sentence: string
  /** What the sentence gives away against the table, where it is a rule. */
  cost?: string
  /** Conversion table used, and the least raw score it asks for the aim; nothing out of reach or for the whole exam. */
  conversion: string
  rawNeeded?: number
  sure: number
  betweenTwo: number
  /** Marks that an answer brings on average, by options left, against leaving it. */
  values: { left: number; chance: number; value: number }[]
}

/** The table, its sentence and what led to them. */
export function guessAdvice(ground: GuessGround, question: GuessQuestion): GuessAdvice {
  const { group } = ground
  const { perRight, perWrong, perBlank = 0 } = group
  const sure = question.sure ?? ground.sure.rate
  const betweenTwo = question.betweenTwo ?? ground.betweenTwo.rate
  const named = conversionOf(ground, question)
  const answersOf = (left: number): Answers => ({
    items: group.items,
    chance: chanceOf(left, betweenTwo),
    perRight,
    perWrong,
    perBlank,
  })
  const table = guessTable({
    items: group.items,
    perRight,
    perWrong,
    perBlank,
    sure,
    unsure: chanceOf(question.left, betweenTwo),
    others: ground.others,
    worth: worthOf(ground, question, named),
  })
  const rule = ruleOf(table)
  const needed =
    question.aim.kind === 'score'
      ? rawNeeded({ groups: ground.way }, named.conversion, question.aim.scaled)
      : undefined
  return {
    table,
    sentence: sentenceOf(table, rule, question.left, gainOf(answersOf(question.left))),
    ...(rule && { cost: ruleCost(rule) }),
    conversion: named.title,
    ...(needed !== undefined && { rawNeeded: needed + (question.stricter ?? 0) }),
    sure,
    betweenTwo,
    values: Array.from({ length: (group.choices ?? 1) - 1 }, (_, at) => {
      const left = group.choices! - at
      const own = answersOf(left)
      return { left, chance: own.chance, value: gainOf(own) }
    }),
  }
}

/** A paper half done: how many answers are safe, and how many unsure ones there are with so many options left. */
export interface HalfDone {
  safe: number
  unsure: { left: number; items: number }[]
}

/** Odds for answering some of the unsure items, different numbers of options left mixed. The rest is blank. */
export function guessMix(ground: GuessGround, question: GuessQuestion, half: HalfDone): MixOdds {
  const { items, perRight, perWrong, perBlank = 0 } = ground.group
  const betweenTwo = question.betweenTwo ?? ground.betweenTwo.rate
  const unsure = half.unsure.map(({ left, items: own }): Answers => ({
    items: own,
    chance: chanceOf(left, betweenTwo),
    perRight,
    perWrong,
    perBlank,
  }))
  const blank = items - half.safe - unsure.reduce((sum, own) => sum + own.items, 0)
  const safe: Answers = { items: half.safe, chance: question.sure ?? ground.sure.rate, perRight, perWrong }
  const base = [...ground.others, safe]
  if (blank > 0 && perBlank) base.push({ items: 1, chance: 1, perRight: blank * perBlank, perWrong: 0 })
  return mixOdds(base, unsure, worthOf(ground, question))
}

/** Situations to train on, from the arithmetic of one ground; every number of options left from two up. */
export function trainingOf(
  ground: GuessGround,
  question: Omit<GuessQuestion, 'left'>,
  count: number,
  seed: number,
): Situation[] {
  const lefts = Array.from({ length: ground.group.choices! - 1 }, (_, at) => at + 2)
  const tables = new Map(lefts.map((left) => [left, guessAdvice(ground, { ...question, left }).table]))
  return situationsOf(tables, count, seed)
}
