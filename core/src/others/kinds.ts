import { factByFact } from './facts'
import { grasping } from './grasp'
import type { Kind } from './person'
import { powerLaw } from './powerLaw'
import { traces } from './traces'

/** Kinds of learners that learn and forget in other ways than the model's, each by a name and what may be said of it. */
export const otherKinds: { name: string; title: string; kind: Kind }[] = [
  { name: 'power law', title: 'learns and forgets by a power law', kind: powerLaw },
  { name: 'traces, fatigue', title: 'keeps a trace of every session, and tires', kind: traces },
  { name: 'fact by fact', title: 'learns fact by fact', kind: factByFact },
  { name: 'grasping', title: 'grasps a topic all at once', kind: grasping },
]
