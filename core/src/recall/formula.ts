import * as mathjs from 'mathjs/number'

/** The library with what formulas may use and nothing else in it: no imports, units, matrices, texts or programs. */
const math = mathjs.create(
  Object.assign(
    {},
    mathjs.absDependencies,
    mathjs.acosDependencies,
    mathjs.addDependencies,
    mathjs.andDependencies,
    mathjs.asinDependencies,
    mathjs.atan2Dependencies,
    mathjs.atanDependencies,
    mathjs.cbrtDependencies,
    mathjs.ceilDependencies,
    mathjs.cosDependencies,
    mathjs.divideDependencies,
    mathjs.equalDependencies,
    mathjs.expDependencies,
    mathjs.floorDependencies,
    mathjs.largerDependencies,
    mathjs.largerEqDependencies,
    mathjs.log10Dependencies,
    mathjs.log2Dependencies,
    mathjs.logDependencies,
    mathjs.maxDependencies,
    mathjs.minDependencies,
    mathjs.modDependencies,
    mathjs.multiplyDependencies,
    mathjs.notDependencies,
    mathjs.orDependencies,
    mathjs.parseDependencies,
    mathjs.powDependencies,
    mathjs.roundDependencies,
    mathjs.signDependencies,
    mathjs.sinDependencies,
    mathjs.smallerDependencies,
    mathjs.smallerEqDependencies,
    mathjs.sqrtDependencies,
    mathjs.subtractDependencies,
    mathjs.tanDependencies,
    mathjs.unaryMinusDependencies,
    mathjs.unaryPlusDependencies,
    mathjs.unequalDependencies,
  ) as mathjs.FactoryFunctionMap,
)

/** What a formula may call, each with the number of values it takes. */
const functions = new Map<string, readonly [number, number]>([
  ['sqrt', [1, 1]],
  ['cbrt', [1, 1]],
  ['abs', [1, 1]],
  ['sign', [1, 1]],
  ['round', [1, 2]],
  ['floor', [1, 1]],
  ['ceil', [1, 1]],
  ['min', [1, 20]],
  ['max', [1, 20]],
  ['sin', [1, 1]],
  ['cos', [1, 1]],
  ['tan', [1, 1]],
  ['asin', [1, 1]],
  ['acos', [1, 1]],
  ['atan', [1, 1]],
  ['atan2', [2, 2]],
  ['exp', [1, 1]],
  ['log', [1, 2]],
  ['log2', [1, 1]],
  ['log10', [1, 1]],
])
/** Numbers that a formula knows by name; `deg` makes radians of degrees. */
const constants = new Map([
  ['pi', Math.PI],
  ['e', Math.E],
  ['deg', Math.PI / 180],
])
const operators = new Set(
  'add subtract multiply divide pow mod unaryMinus unaryPlus smaller larger smallerEq largerEq equal unequal and or not'.split(
    ' ',
  ),
)
/** Parts of a formula; a longer one is a program, or a trap. */
const mostParts = 200
const mostCharacters = 500

/** Words that a number cannot be called, since they are something else in a formula. */
export const isTaken = (name: string): boolean =>
  functions.has(name) || constants.has(name) || ['mod', 'and', 'or', 'not', 'xor', 'to', 'in'].includes(name)

/** A formula that was read: its value for numbers by name, NaN where it has none. */
export interface Formula {
  valueFor(numbers: Readonly<Record<string, number>>): number
  /** Names of the numbers that it uses. */
  uses: string[]
}

const listed = (words: Iterable<string>): string => [...words].join(', ')

/** What is wrong with a part of a formula, its own parts not looked at. */
function problemOf(node: mathjs.MathNode, names: ReadonlySet<string>): string | undefined {
  // The library tells parts apart by these words.
  const part = node as mathjs.MathNode & {
    fn?: { name?: string } | string
    args?: mathjs.MathNode[]
    name?: string
    value?: unknown
    implicit?: boolean
  }
  switch (node.type) {
    case 'ConstantNode':
      return Number.isFinite(part.value) ? undefined : 'a formula is made of numbers, none of them endless'
    case 'ParenthesisNode':
    case 'ConditionalNode':
      return undefined
    case 'OperatorNode':
      return typeof part.fn === 'string' && operators.has(part.fn)
        ? undefined
        : `"${String((part as { op?: string }).op)}" is no operation here; there are + - * / ^ mod, comparisons, and "a ? b : c"`
    case 'SymbolNode': {
      const name = part.name ?? ''
      if (names.has(name) || constants.has(name)) return undefined
      return functions.has(name)
        ? `${name} wants its value in brackets: ${name}(…)`
        : `nothing here is called "${name}"; there are ${listed([...names, ...constants.keys()])}`
    }
    case 'FunctionNode': {
      const name = typeof part.fn === 'object' ? (part.fn.name ?? '') : ''
      if (names.has(name)) return `write ${name} * (…): ${name} is a number`
      const takes = functions.get(name)
      if (!takes) return `there is no function "${name}"; there are ${listed(functions.keys())}`
      const given = part.args?.length ?? 0
      const [least, most] = takes
      if (given >= least && given <= most) return undefined
      return `${name} takes ${least === most ? least : `${least} to ${most}`} ${most === 1 ? 'value' : 'values'}, not ${given}`
    }
    default:
      return 'a formula is one line of numbers, names, operations and functions'
  }
}

/** The first thing that is wrong in the tree of a formula; a function's own name is no part. */
function problemIn(root: mathjs.MathNode, names: ReadonlySet<string>): string | undefined {
  const waiting = [root]
  for (let parts = 1; waiting.length; parts++) {
    if (parts > mostParts) return `at most ${mostParts} numbers, names and operations`
    const node = waiting.shift() as mathjs.MathNode
    const problem = problemOf(node, names)
    if (problem) return problem
    if (node.type === 'FunctionNode')
      waiting.push(...(node as mathjs.MathNode & { args: mathjs.MathNode[] }).args)
    else node.forEach((child) => waiting.push(child))
  }
  return undefined
}

const usedIn = (root: mathjs.MathNode, names: ReadonlySet<string>): string[] => {
  const found = new Set<string>()
  root.traverse((node) => {
    const { name } = node as mathjs.MathNode & { name?: string }
    if (node.type === 'SymbolNode' && name && names.has(name)) found.add(name)
  })
  return [...found]
}

/**
 * Reads a formula in which only these names stand for numbers. It is parsed by mathjs, and run only when every part of its tree is one
 * of a closed list: nothing can be called, assigned or reached through it. Answers what is wrong, in words, where it is none.
 */
export function readFormula(text: string, numbers: readonly string[]): Formula | { problem: string } {
  if (!text.trim()) return { problem: 'write a formula' }
  if (text.length > mostCharacters) return { problem: `at most ${mostCharacters} characters` }
  const names = new Set(numbers)
  try {
    const tree = math.parse(text)
    const problem = problemIn(tree, names)
    if (problem) return { problem }
    const code = tree.compile()
    const uses = usedIn(tree, names)
    return {
      uses,
      valueFor(own) {
        try {
          // Each time a scope of its own, in which nothing is inherited.
          const value: unknown = code.evaluate(
            new Map([...constants, ...uses.map((name) => [name, own[name]] as const)]),
          )
          return typeof value === 'number' ? value : NaN
        } catch {
          return NaN
        }
      },
    }
  } catch (error) {
    const message = error instanceof SyntaxError ? error.message : 'it ends too early, or cannot be read'
    return { problem: `it cannot be read: ${message}` }
  }
}
