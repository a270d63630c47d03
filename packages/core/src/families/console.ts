import type { Family } from './family'

export interface ConsoleLine {
  readonly time: string
  readonly level: string
  readonly text: string
}

export type ConsoleEvent =
  | { readonly type: 'ready' }
  | { readonly type: 'state'; readonly players: number; readonly ticks: number }
  | { readonly type: 'generated'; readonly plugin: string; readonly file: string }
  | { readonly type: 'loaded'; readonly plugin: string; readonly version: string }
  | {
      readonly type: 'failed'
      readonly plugin: string
      readonly version: string
      readonly file: string | null
      readonly line: number | null
      readonly reason: string
    }

/** Understands console lines as the family describes them. */
export class ConsoleReader {
  private readonly patterns: Readonly<Record<'line' | 'ready' | 'state' | 'generated' | 'loaded' | 'failed', RegExp | null>>
  private readonly speech: RegExp | null

  constructor(family: Family) {
    const { console } = family
    const pattern = (source: string | undefined): RegExp | null => (source === undefined ? null : new RegExp(source))
    this.speech = pattern(console.speech)
    this.patterns = {
      line: pattern(console.line),
      ready: pattern(console.ready),
      state: pattern(console.state),
      generated: pattern(console.generated),
      loaded: pattern(console.loaded),
      failed: pattern(console.failed),
    }
  }

  /** Splits a line; one of another shape is all text. */
  line(source: string): ConsoleLine {
    const groups = this.patterns.line?.exec(source)?.groups
    return { time: groups?.['time'] ?? '', level: groups?.['level'] ?? 'info', text: groups?.['text'] ?? source }
  }

  /** What a line means. What a player typed means nothing, whatever it looks like. */
  event({ text }: ConsoleLine): ConsoleEvent | null {
    if (this.speech?.test(text)) return null
    if (this.patterns.ready?.test(text)) return { type: 'ready' }
    const state = this.patterns.state?.exec(text)?.groups
    if (state) return { type: 'state', players: Number(state['players']), ticks: Number(state['ticks']) }
    const generated = this.patterns.generated?.exec(text)?.groups
    if (generated) return { type: 'generated', plugin: generated['plugin'] ?? '', file: generated['file'] ?? '' }
    const failed = this.patterns.failed?.exec(text)?.groups
    if (failed)
      return {
        type: 'failed',
        plugin: failed['plugin'] ?? '',
        version: failed['version'] ?? '',
        file: failed['file'] ?? null,
        line: failed['line'] ? Number(failed['line']) : null,
        reason: failed['reason'] ?? '',
      }
    const loaded = this.patterns.loaded?.exec(text)?.groups
    return loaded ? { type: 'loaded', plugin: loaded['plugin'] ?? '', version: loaded['version'] ?? '' } : null
  }
}
