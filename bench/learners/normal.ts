/** A standard normal number (Box and Muller). */
export const normalOf = (random: () => number): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())
export const shareOf = (logOdds: number): number => 1 / (1 + Math.exp(-logOdds))
