import { NO_COMMENTS, type Comment } from '../tree/nodes'

/** Hands the comments a lexer met, in order, to the entries they belong to. */
export class CommentStream {
  private next = 0
  readonly all: Comment[] = []

  constructor(private readonly text: string) {}

  add(from: number, to: number): void {
    this.all.push({ from, to, attached: false })
  }

  /** The waiting comments that start before an offset; those right above it, without a blank line between, are attached. */
  takeLead(before: number): readonly Comment[] {
    const first = this.next
    while (this.next < this.all.length && this.all[this.next]!.from < before) this.next++
    if (first === this.next) return NO_COMMENTS
    const taken = this.all.slice(first, this.next)
    let below = before
    for (let i = taken.length - 1; i >= 0 && this.breaks(taken[i]!.to, below) <= 1; i--) {
      taken[i]!.attached = true
      below = taken[i]!.from
    }
    return taken
  }

  /** The next comment, if it stands behind `end` on the same line. */
  takeTrail(end: number): Comment | null {
    const comment = this.all[this.next]
    if (!comment || comment.from < end || this.breaks(end, comment.from) > 0) return null
    this.next++
    comment.attached = true
    return comment
  }

  /** Passes over comments inside what was just read, which belong to it. */
  drop(before: number): void {
    while (this.next < this.all.length && this.all[this.next]!.from < before) this.next++
  }

  private breaks(from: number, to: number): number {
    let count = 0
    for (let i = from; i < to && count < 2; i++) {
      const code = this.text.charCodeAt(i)
      if (code === 10 || (code === 13 && this.text.charCodeAt(i + 1) !== 10)) count++
    }
    return count
  }
}
