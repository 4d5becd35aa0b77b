import { onBeforeUnmount, ref, shallowReactive } from 'vue'
import type { RouteLocationRaw } from 'vue-router'
import { allParts } from './places'

/** Something that can be gone to or done, by its name. */
export interface Command {
  title: string
  /** Where it belongs: a place, or what it is about. */
  of: string
  /** Keys that do it, as the list of keys shows them. */
  keys?: string
  to?: RouteLocationRaw
  run?: () => unknown
}

/** Whether the list of commands is open. */
export const finding = ref(false)

const offered = shallowReactive(new Set<() => readonly Command[]>())
/** Offers commands for as long as what offers them is on the screen. */
export function useCommands(commands: () => readonly Command[]): void {
  offered.add(commands)
  onBeforeUnmount(() => offered.delete(commands))
}
/** All that can be gone to and done from here; what is nearest to the hand first. */
export const commandsHere = (): Command[] => [...offered].reverse().flatMap((own) => own())

/** Every screen of a candidate. */
export const screensOf = (candidateId: string): Command[] =>
  allParts.map(({ name, title, key }) => ({
    title,
    of: 'Go to',
    keys: `g ${key}`,
    to: { name, params: { candidateId } },
  }))

/** Keys that belong to what has the focus, and are no command of their own. */
export const handKeys: readonly (readonly [keys: string, what: string])[] = [
  ['Arrow keys', 'Plan: from session to session. Week painter: from half-hour to half-hour'],
  [
    'm',
    'Plan: move the session; arrows by a quarter of an hour and by days, Enter puts it down, Esc does not',
  ],
  ['+ and -', 'Plan: longer, shorter'],
  ['i', 'Plan: pin it, or let it go again'],
  ['x', 'Plan: lift it out, into the tray'],
  ['Space', 'Week painter: free or not; with Shift and an arrow key, paint along'],
  ['Arrow keys', 'Guessing: from cell to cell of the table'],
  ['In a test', 'its menu lists its own keys'],
  ['y and n', 'Guessing trainer: answer them, leave them'],
  ['Space, 1 to 4, u, Esc', 'Recall: show it, how it came back, undo, end'],
  ['n', 'Recall, cards: a new one'],
  ['Space, l, Backspace', 'Drill: answered, left it, back'],
  ['Left, Right', 'Horizon: move the weeks shown'],
  ['Esc', 'Close what is open'],
]
