/**
 * Numbers questions: what is asked last is what counts, in whatever order the answers come.
 * @returns asks once more, and gives what tells whether nothing was asked since
 */
export function inTurn(): () => () => boolean {
  let last = 0
  return () => {
    const own = ++last
    return () => own === last
  }
}
