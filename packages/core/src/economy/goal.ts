/** So often the room a value lies in is halved: to a billionth of it. */
const HALVINGS = 60

/**
 * The value of a setting at which something comes to a goal, where it only grows or only falls with it (bisection).
 * @returns null where it does not come to it between the two
 */
export function valueFor(outcome: (value: number) => number, goal: number, least: number, most: number): number | null {
  let [low, high] = [least, most]
  const [atLow, atHigh] = [outcome(low), outcome(high)]
  if (atLow === goal) return low
  if (atHigh === goal) return high
  const grows = atHigh > atLow
  if (grows ? goal < atLow || goal > atHigh : goal > atLow || goal < atHigh) return null
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (low + high) / 2
    if (outcome(middle) < goal === grows) low = middle
    else high = middle
  }
  return (low + high) / 2
}
