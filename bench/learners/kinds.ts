import { type Kind, otherKinds } from '@climber/core'
import { own } from './own'

/** Those that are not the model's, by their names. */
export const kindNamed = (name: string): Kind => otherKinds.find((one) => one.name === name)!.kind

/** The kinds of learners that plans are tried on; only the first is the model's. */
export const kinds: [string, Kind][] = [
  ['own kind', own()],
  ...otherKinds.map(({ name, kind }): [string, Kind] => [name, kind]),
]
