/** Nanoseconds that a step of the loop below takes on a machine of the kind that the limits are meant for. */
const usual = 3

function nanosecondsAStep(): number {
  const steps = 4_000_000
  const { imul } = Math
  const begun = performance.now()
  let sum = 0
  for (let step = 0; step < steps; step++) {
    const mixed = imul(step ^ (step >>> 15), 1 | step)
    sum = (sum + (mixed ^ (mixed >>> 7))) | 0
  }
  const took = performance.now() - begun
  return ((took + (sum === 0 ? 1e-9 : 0)) * 1e6) / steps
}

/**
 * A limit of so many milliseconds, longer by as much as this machine is slower just now than usual; never shorter. The
 * machines that tests run on share their processors with others, and for whole hours give a third of what they can.
 */
export function allowed(milliseconds: number): number {
  const times = Array.from({ length: 9 }, nanosecondsAStep).sort((a, b) => a - b)
  const slower = Math.max(1, times[4]! / usual)
  if (slower > 1.2) console.log(`This machine is ${slower.toFixed(1)} times as slow as usual just now.`)
  return milliseconds * slower
}
