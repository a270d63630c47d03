import { defineStore } from 'pinia'
import { placeholderName, type TextRun } from '@pasticcio/core'
import { sampleFor } from '~/utils/sample-values'

/** Where a placeholder’s value comes from. */
export type ValueFrom = 'given' | 'reader' | 'now' | 'plugin' | 'sample'

/** Names of placeholders that stand for the player who reads. */
const READER = /^(?:player|name|who|nick|user|username|player[_-]?name)$/i
/** Names of those that stand for how many are there now. */
const ONLINE = /^(?:online|players|players[_-]?online|online[_-]?players)$/i

/** What stands for placeholders while texts are read: who reads them, what the server tells now, and what somebody gave. */
export const useSamplesStore = defineStore('samples', () => {
  const server = useServerStore()
  const known = useKnownStore()
  const messages = useMessagesStore()
  /** Values of placeholders that somebody gave, by their names. */
  const values = useLocalStorage<Record<string, string>>('pasticcio-samples', {})
  /** The player whose eyes texts are read with. */
  const reader = useLocalStorage('pasticcio-reader', 'nessa')

  /** What plugins themselves call things, as the name of their first pit: `name` of a plugin. */
  const own = computed(() => {
    const first = new Map<string, string>()
    for (const { plugin, pointer, texts, isList } of messages.all) {
      const key = `${plugin} ${pointer.split('/').at(-1)}`
      if (!isList && !first.has(key) && pointer.split('/').length > 2) first.set(key, texts[0]!)
    }
    return first
  })

  const nameOf = (placeholder: string): string => placeholderName(known.known.texts, placeholder)

  /**
   * What a placeholder shows, and where that comes from: what somebody gave, else the reader, else what the server tells now, else what
   * its plugin has of that name, else what its name is like.
   */
  function told(placeholder: string, plugin: string): { readonly value: string; readonly from: ValueFrom } {
    const name = nameOf(placeholder)
    const given = values.value[name]
    if (given !== undefined) return { value: given, from: 'given' }
    if (READER.test(name)) return { value: reader.value, from: 'reader' }
    const { status, players } = server.state
    if (ONLINE.test(name) && status === 'running' && players !== null) return { value: String(players), from: 'now' }
    const ofPlugin = own.value.get(`${plugin} ${name}`)
    return ofPlugin === undefined ? { value: sampleFor(name), from: 'sample' } : { value: ofPlugin, from: 'plugin' }
  }
  const valueOf = (placeholder: string, plugin: string): string => told(placeholder, plugin).value

  /** Gives a placeholder a value of one's own; an empty one takes that back. */
  function give(placeholder: string, value: string): void {
    const { [nameOf(placeholder)]: _before, ...others } = values.value
    values.value = value === '' ? others : { ...others, [nameOf(placeholder)]: value }
  }

  /**
   * The lines of a text as a player reads them: placeholders have values. Codes that nobody tells of are taken off, as the server takes them
   * off; what is wrong with them is told as a finding.
   */
  function seenLines(text: string, plugin: string): readonly (readonly TextRun[])[] {
    const seen = (run: TextRun): TextRun => (run.is === 'placeholder' ? { ...run, text: valueOf(run.text, plugin) } : run)
    return known.markup.read(text).map((line) => line.filter(({ is }) => is !== 'unknown').map(seen))
  }

  return { values, reader, told, valueOf, give, seenLines }
})
