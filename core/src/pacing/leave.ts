import { bestRate, expectedSeconds, hazardPeak, leaveTime, type Solving, solvedBy } from './solving'

/** Items that are alike: how they go, how many there are, and what solving one adds to leaving it. */
export interface LeaveClass extends Solving {
  count: number
  worth: number
}

export interface LeaveRule {
  /** Seconds after which an item of the class is left; 0 is at once. */
  seconds: number
  /** How many of the class are to be started at all before the time is up; all of them but in the class at the margin. */
  started: number
  /** Expected seconds of all items of the class, and those solved. */
  time: number
  solved: number
  /** Marks a second that starting one brings at best. */
  rate: number
}

export interface LeavePlan {
  /** Marks that one more second would bring. */
  mu: number
  rules: LeaveRule[]
  /** Expected seconds of all items: the time there is, or less where all can be tried to their end. */
  time: number
  marks: number
}

/** Seconds that it takes to see that an item is to be left, to mark it, and to answer what is left by guess. */
export const markSeconds = 3

const timeOf = (own: LeaveClass, leave: number, cost: number): number =>
  leave <= 0 ? cost : expectedSeconds(own, leave) + cost * (1 - own.p * solvedBy(own, leave))

/** Beyond this many seconds for each mark there is time enough for everything. */
const plenty = 1e-7

/**
 * Leave times that fill `seconds`: mu is found by bisection so that expected times add up to the time there is. Expected
 * time jumps where a class stops being worth a start; there, as many of that class are started as fill the time, which is
 * optimal (the marks as a function of the time are made concave by mixing: Stone 1975, 2.2). With more time than
 * everything can use, mu is as good as 0.
 */
export function leavePlan(classes: LeaveClass[], seconds: number, cost = markSeconds): LeavePlan {
  const peaks = new Map(classes.map((own) => [own, hazardPeak(own)]))
  const rates = classes.map((own) =>
    own.worth > 0 && own.p > 0 ? bestRate(own, own.worth, cost, peaks.get(own)) : 0,
  )
  const leaveAt = (own: LeaveClass, mu: number) => leaveTime(own, own.worth + mu * cost, mu, peaks.get(own))
  const whole = (mu: number): number =>
    classes.reduce(
      (sum, own, at) => sum + own.count * timeOf(own, rates[at]! > mu ? leaveAt(own, mu) : 0, cost),
      0,
    )
  let low = plenty
  let high = Math.max(plenty * 2, ...rates) * 1.001
  if (whole(low) > seconds)
    for (let step = 0; step < 100; step++) {
      const mu = Math.sqrt(low * high)
      if (whole(mu) > seconds) low = mu
      else high = mu
    }
  else high = low
  // Classes whose start pays at `low` and no longer at `high` are at the margin: their share fills what is left.
  const margin = classes.map((_, at) => high > low && rates[at]! > low && rates[at]! <= high * (1 + 1e-9))
  const mu = low
  const sure = classes.reduce(
    (sum, own, at) =>
      sum + own.count * timeOf(own, !margin[at] && rates[at]! > mu ? leaveAt(own, mu) : 0, cost),
    0,
  )
  const extra = classes.reduce(
    (sum, own, at) => sum + (margin[at] ? own.count * (timeOf(own, leaveAt(own, mu), cost) - cost) : 0),
    0,
  )
  const share = extra > 0 ? Math.min(1, Math.max(0, (seconds - sure) / extra)) : 1
  const rules = classes.map((own, at): LeaveRule => {
    const starts = margin[at] ? share : rates[at]! > mu ? 1 : 0
    const leave = starts > 0 ? leaveAt(own, mu) : 0
    return {
      seconds: leave,
      started: own.count * starts,
      time: own.count * (starts * timeOf(own, leave, cost) + (1 - starts) * cost),
      solved: own.count * starts * own.p * solvedBy(own, leave),
      rate: rates[at]!,
    }
  })
  return {
    mu,
    rules,
    time: rules.reduce((sum, { time }) => sum + time, 0),
    marks: rules.reduce((sum, { solved }, at) => sum + solved * classes[at]!.worth, 0),
  }
}
