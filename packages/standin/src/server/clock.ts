import type { Span } from '../behaviours/timed'

/** The server's own clock, which can be set on. */
export class GameClock {
  /** Seconds of the day in UTC at which the server started. */
  private readonly dayAt: number
  private setOn = 0
  private passedUntil = 0

  /** @param time seconds since the start */
  constructor(
    private readonly time: () => number,
    private readonly startedAt: Date,
  ) {
    this.dayAt = (startedAt.getTime() / 1000) % (24 * 60 * 60)
  }

  /** Seconds since the start. */
  now = (): number => this.time() + this.setOn

  /** The date it shows. */
  date = (): Date => new Date(this.startedAt.getTime() + this.now() * 1000)

  /** Sets it on by so many seconds, and never back. */
  setOnBy(seconds: number): void {
    this.setOn += Math.max(0, seconds || 0)
  }

  /** The time that went by since this was asked last. */
  passed(): Span {
    const after = this.passedUntil
    this.passedUntil = this.now()
    return { after, until: this.passedUntil, dayAt: this.dayAt }
  }

  /** The time of day in UTC, as in `03:40:00`. */
  get timeOfDay(): string {
    return new Date(Math.floor(this.dayAt + this.now()) * 1000).toISOString().slice(11, 19)
  }
}
