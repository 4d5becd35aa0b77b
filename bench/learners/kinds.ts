import { factByFact } from './facts'
import { grasping } from './grasp'
import type { Kind } from './kind'
import { own } from './own'
import { powerLaw } from './powerLaw'
import { traces } from './traces'

/** The kinds of learners that plans are tried on; only the first is the model's. */
export const kinds: [string, Kind][] = [
  ['own kind', own()],
  ['power law', powerLaw],
  ['traces, fatigue', traces],
  ['fact by fact', factByFact],
  ['grasping', grasping],
]
