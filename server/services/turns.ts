/** Does things one after the other, in the order they were asked for. */
export class Turns {
  private last: Promise<unknown> = Promise.resolve()

  run<T>(work: () => Promise<T>): Promise<T> {
    const done = this.last.then(work)
    this.last = done.catch(() => undefined)
    return done
  }
}
