/** Numbers that look like chance and are the same for the same seed. */
export interface Random {
  /** From 0 up to 1. */
  next(): number
  /** How many of so many events on average happen (D. E. Knuth, The Art of Computer Programming, volume 2, 3.4.1). */
  poisson(mean: number): number
  /** How many of so many tries succeed. */
  successes(tries: number, chance: number): number
}

/** From here on a mean is taken in parts, since what is multiplied would come to nothing. */
const PART = 30

/** Numbers from a seed: `mulberry32` of T. Ettinger (public domain), a counter that is stirred. */
export function randomFrom(seed: number): Random {
  let state = seed >>> 0
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), state | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32
  }
  const few = (mean: number): number => {
    const least = Math.exp(-mean)
    let count = 0
    for (let product = next(); product > least; product *= next()) count++
    return count
  }
  const poisson = (mean: number): number => {
    let count = 0
    let left = mean
    // a sum of such numbers is such a number of the sum of their means
    for (; left > PART; left -= PART) count += few(PART)
    return left > 0 ? count + few(left) : count
  }
  const successes = (tries: number, chance: number): number => {
    if (chance >= 1) return tries
    if (chance <= 0) return 0
    let count = 0
    for (let i = 0; i < tries; i++) if (next() < chance) count++
    return count
  }
  return { next, poisson, successes }
}
