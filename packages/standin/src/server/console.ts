export type Level = 'info' | 'warn' | 'error' | 'reply'

/** Writes console lines as `14:06:22.041 info  text`. */
export class ServerConsole {
  constructor(
    private readonly write: (line: string) => void,
    private readonly now: () => Date,
  ) {}

  line(level: Level, text: string): void {
    const time = this.now().toISOString().slice(11, 23)
    for (const part of text.split('\n')) this.write(`${time} ${level.padEnd(5)} ${part}`)
  }
}
