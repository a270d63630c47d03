import type { Family } from './family'

export interface ConsoleLine {
  readonly time: string
  readonly level: string
  readonly text: string
}

export type ConsoleEvent =
  | { readonly type: 'ready' }
  | { readonly type: 'state'; readonly players: number; readonly ticks: number; readonly memory: number | null }
  /** What a plugin takes of a tick, in milliseconds. */
  | { readonly type: 'time'; readonly plugin: string; readonly ms: number }
  | { readonly type: 'flushed' }
  /** The nodes that a player holds. */
  | { readonly type: 'rights'; readonly player: string; readonly nodes: readonly string[] }
  /** What is one player’s alone was changed by a command, or was not. */
  | { readonly type: 'told'; readonly refused: string | null }
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
  private readonly patterns: Readonly<
    Record<
      'line' | 'ready' | 'state' | 'generated' | 'loaded' | 'failed' | 'time' | 'flushed' | 'rights' | 'done' | 'refused',
      RegExp | null
    >
  >
  private readonly speech: RegExp | null

  constructor(family: Family) {
    const { console, permissions } = family
    const pattern = (source: string | undefined): RegExp | null => (source === undefined ? null : new RegExp(source))
    this.speech = pattern(console.speech)
    this.patterns = {
      line: pattern(console.line),
      ready: pattern(console.ready),
      state: pattern(console.state),
      generated: pattern(console.generated),
      loaded: pattern(console.loaded),
      failed: pattern(console.failed),
      time: pattern(console.time),
      flushed: pattern(console.flushed),
      rights: pattern(console['rights-told']),
      done: pattern(permissions.commands?.done),
      refused: pattern(permissions.commands?.refused),
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
    if (state)
      return {
        type: 'state',
        players: numberIn(state['players']) ?? 0,
        ticks: numberIn(state['ticks']) ?? 0,
        memory: numberIn(state['memory']),
      }
    const time = this.patterns.time?.exec(text)?.groups
    if (time) return { type: 'time', plugin: time['plugin'] ?? '', ms: numberIn(time['ms']) ?? 0 }
    if (this.patterns.flushed?.test(text)) return { type: 'flushed' }
    const rights = this.patterns.rights?.exec(text)?.groups
    if (rights) return { type: 'rights', player: rights['player'] ?? '', nodes: (rights['nodes'] ?? '').split(/[\s,]+/).filter(Boolean) }
    const refused = this.patterns.refused?.exec(text)
    if (refused) return { type: 'told', refused: refused.groups?.['reason'] ?? text }
    if (this.patterns.done?.test(text)) return { type: 'told', refused: null }
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

/** A number as consoles write it, also with a comma; null for none. */
function numberIn(text: string | undefined): number | null {
  const number = Number((text ?? '').replace(',', '.'))
  return text === undefined || text === '' || Number.isNaN(number) ? null : number
}
