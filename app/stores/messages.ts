import { defineStore } from 'pinia'
import { placeholderName, type TextRun } from '@pasticcio/core'
import { toWire } from '~/drafts/wire'
import {
  NO_FILTER,
  bookRows,
  filterMessages,
  idOf,
  stepsOf,
  topsOf,
  type ListedMessage,
  type MessageFilter,
  type MessageView,
} from '~/utils/message-groups'
import { sampleFor } from '~/utils/sample-values'
import type { Ground } from '~/utils/contrast'
import type { LanguageShown, MessagesAnswer } from '~/utils/types'

/** What is typed is looked at with all other files once nobody types for so long. */
const LOOK_AFTER_MS = 700
/** So long the last text of a group that is played stays in focus as such. */
const LAST_MS = 1500

/** Every text of the server at hand that players read: found, seen as they see it, and written through the drafts. */
export const useMessagesStore = defineStore('messages', () => {
  const server = useServerStore()
  const drafts = useDraftsStore()
  const known = useKnownStore()
  const all = shallowRef<readonly ListedMessage[]>([])
  const languages = shallowRef<readonly LanguageShown[]>([])
  const filter = ref<MessageFilter>(NO_FILTER)
  const view = ref<MessageView>('events')
  const focus = ref('')
  const problem = ref('')
  const loading = ref(false)
  const isLoaded = ref(false)
  /** The ground of all readings; empty for that of each surface. */
  const ground = ref<Ground | ''>('')
  /** Values of placeholders that somebody gave, by their names. */
  const values = useLocalStorage<Record<string, string>>('pasticcio-samples', {})

  /** Counts what was written, so that an answer of before it is known as such. */
  let writes = 0

  const shown = computed(() => filterMessages(all.value, filter.value))
  const rows = computed(() => bookRows(shown.value, view.value))
  const tops = computed(() => topsOf(rows.value))
  const current = computed(() => all.value.find(({ id }) => id === focus.value) ?? null)
  const plugins = computed(() => [...new Set(all.value.map(({ plugin }) => plugin))].filter(Boolean).sort())
  const spoken = computed(() => [...new Set(all.value.flatMap(({ language }) => language ?? []))].sort())
  const counts = computed(() => ({
    mine: all.value.filter(({ isShipped }) => !isShipped).length,
    updates: all.value.filter(({ update }) => update !== null).length,
    findings: all.value.filter(({ findings }) => findings.length > 0).length,
  }))

  async function load(): Promise<void> {
    loading.value = true
    problem.value = ''
    const asked = writes
    try {
      const [answer] = await Promise.all([callApi<MessagesAnswer>(`${server.base}/messages`), known.ready()])
      // what was written meanwhile is not in it yet, and is looked at once more
      if (asked !== writes) return void lookAgain()
      all.value = answer.messages.map((message) => ({ ...message, id: idOf(message) }))
      languages.value = answer.languages
      if (!current.value) focus.value = firstOf()
      isLoaded.value = true
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      loading.value = false
    }
  }
  const firstOf = (): string => rows.value.find(({ kind }) => kind === 'message')?.id ?? ''

  const lookAgain = useDebounceFn(async () => {
    await drafts.flushAll()
    await load()
  }, LOOK_AFTER_MS)

  /** Writes a text into the draft of its file; what is wrong with it is told once nobody types. */
  async function write(message: ListedMessage, texts: readonly string[]): Promise<void> {
    writes++
    problem.value = ''
    all.value = all.value.map((one) => (one.id === message.id ? { ...one, texts } : one))
    const value = message.isList ? [...texts] : texts[0]!
    await operate(message.file, { kind: 'set', pointer: message.pointer, value: toWire(value) })
  }
  /** Puts a text into a comment, so that the plugin's own counts; the sheet sets it again. */
  const turnOff = (message: ListedMessage): Promise<void> => operate(message.file, { kind: 'turn-off', pointer: message.pointer })
  const toFactory = (message: ListedMessage): Promise<void> => operate(message.file, { kind: 'to-factory', pointer: message.pointer })
  async function operate(file: string, operation: Parameters<typeof drafts.together>[0][number]['operation']): Promise<void> {
    problem.value = await drafts.together([{ path: file, operation }])
    void lookAgain()
  }
  /** Writes several texts as one: where one cannot be written, none is, and one undo takes all back. */
  async function writeAll(some: readonly { readonly message: ListedMessage; readonly texts: readonly string[] }[]): Promise<void> {
    problem.value = await drafts.together(
      some.map(({ message, texts }) => ({
        path: message.file,
        operation: { kind: 'set', pointer: message.pointer, value: toWire(message.isList ? [...texts] : texts[0]!) },
      })),
    )
    await drafts.flushAll()
    await load()
  }
  async function undo(): Promise<void> {
    drafts.undo(true)
    await drafts.flushAll()
    await load()
  }

  /** The group whose texts are gone through as a player gets them; empty for none. */
  const playing = ref('')
  let next: ReturnType<typeof setTimeout> | null = null
  function stop(): void {
    if (next) clearTimeout(next)
    next = null
    playing.value = ''
  }
  /** Goes through the texts of a group in real time: each is in focus when a player sees it. Once more ends it. */
  function play(group: string): void {
    const was = playing.value
    stop()
    const steps = stepsOf(rows.value, group)
    if (was === group || steps.length === 0) return
    playing.value = group
    const step = (at: number): void => {
      focus.value = steps[at]!.id
      const after = steps[at + 1]
      next = after ? setTimeout(() => step(at + 1), after.waits) : setTimeout(stop, LAST_MS)
    }
    step(0)
  }

  function move(step: 1 | -1): void {
    const ids = rows.value.flatMap((row) => (row.kind === 'message' ? [row.id] : []))
    const at = ids.indexOf(focus.value)
    const next = ids[at < 0 ? 0 : at + step]
    if (next) focus.value = next
  }

  /** What plugins themselves call things, as the name of their first pit: `name` of a plugin. */
  const own = computed(() => {
    const first = new Map<string, string>()
    for (const { plugin, pointer, texts, isList } of all.value) {
      const key = `${plugin} ${pointer.split('/').at(-1)}`
      if (!isList && !first.has(key) && pointer.split('/').length > 2) first.set(key, texts[0]!)
    }
    return first
  })
  /** What a placeholder shows: what somebody gave, else what its plugin has of that name, else what its name is like. */
  const valueOf = (placeholder: string, plugin: string): string => {
    const name = placeholderName(known.known.texts, placeholder)
    return values.value[name] ?? own.value.get(`${plugin} ${name}`) ?? sampleFor(name)
  }
  const give = (placeholder: string, value: string): void => {
    values.value = { ...values.value, [placeholderName(known.known.texts, placeholder)]: value }
  }
  /**
   * The lines of a text as a player reads them: placeholders have values. Codes that nobody tells of are taken off, as the server takes them
   * off; what is wrong with them is told as a finding.
   */
  function seenLines(text: string, plugin: string): readonly (readonly TextRun[])[] {
    const seen = (run: TextRun): TextRun => (run.is === 'placeholder' ? { ...run, text: valueOf(run.text, plugin) } : run)
    return known.markup.read(text).map((line) => line.filter(({ is }) => is !== 'unknown').map(seen))
  }

  return {
    all,
    languages,
    filter,
    view,
    focus,
    problem,
    loading,
    isLoaded,
    ground,
    values,
    shown,
    rows,
    tops,
    current,
    plugins,
    spoken,
    counts,
    load,
    write,
    writeAll,
    toFactory,
    turnOff,
    playing,
    play,
    stop,
    undo,
    move,
    valueOf,
    give,
    seenLines,
  }
})
