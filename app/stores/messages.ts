import { defineStore } from 'pinia'
import { toWire } from '~/drafts/wire'
import { settingValue } from '~/utils/message-value'
import type { CellState, PutText } from '~/utils/message-languages'
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
import type { Ground } from '~/utils/contrast'
import type { LanguagesShown, MessagesAnswer, ServerLanguage, ShownPicture } from '~/utils/types'

/** What is typed is looked at with all other files once nobody types for so long. */
const LOOK_AFTER_MS = 700
/** So long the last text of a group that is played stays in focus as such. */
const LAST_MS = 1500

/** Every text of the server at hand that players read: found, seen as they see it, and written through the drafts. */
export const useMessagesStore = defineStore('messages', () => {
  const server = useServerStore()
  const drafts = useDraftsStore()
  const known = useKnownStore()
  const tray = useTrayStore()
  const all = shallowRef<readonly ListedMessage[]>([])
  const languages = shallowRef<readonly LanguagesShown[]>([])
  const pictures = shallowRef<readonly ShownPicture[]>([])
  /** The language the game itself speaks. */
  const serverLanguage = shallowRef<ServerLanguage | null>(null)
  const filter = ref<MessageFilter>(NO_FILTER)
  const view = ref<MessageView>('events')
  const focus = ref('')
  /** Whose languages are looked at; empty for the first. */
  const languageBase = ref('')
  /** Only texts of which this is to be said; empty for all. */
  const languageState = ref<CellState>('')
  const problem = ref('')
  const loading = ref(false)
  const isLoaded = ref(false)
  /** The ground of all readings; empty for that of each surface. */
  const ground = ref<Ground | ''>('')

  /** Counts what was written, so that an answer of before it is known as such. */
  let writes = 0

  const shown = computed(() => filterMessages(all.value, filter.value))
  const rows = computed(() => bookRows(shown.value, view.value))
  const tops = computed(() => topsOf(rows.value))
  /** The picture that is looked at instead of a text; null for none. */
  const picture = computed(() => pictures.value.find((one) => pictureId(one) === focus.value) ?? null)
  const current = computed(() => all.value.find(({ id }) => id === focus.value) ?? null)
  const plugins = computed(() => [...new Set(all.value.map(({ plugin }) => plugin))].filter(Boolean).sort())
  const spoken = computed(() => [...new Set(all.value.flatMap(({ translated }) => translated?.language || []))].sort())
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
      pictures.value = answer.pictures
      serverLanguage.value = answer.spoken
      if (!current.value && !picture.value) focus.value = firstOf()
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

  /** What takes back each thing that was done here, the last at the end. */
  const undos: (() => unknown)[] = []

  /** Writes a text into the draft of its file; what is wrong with it is told once nobody types. */
  async function write(message: ListedMessage, texts: readonly string[]): Promise<void> {
    if (message.book) return writeBook(message, texts[0] ?? '')
    writes++
    show(message, texts)
    await operate(message.file, { kind: 'set', pointer: message.pointer, value: toWire(settingValue(message, texts)) })
  }
  const show = (message: ListedMessage, texts: readonly string[]): void =>
    void (all.value = all.value.map((one) => (one.id === message.id ? { ...one, texts } : one)))

  /** Stages a text file whole, in the place where the setting that names it looks. */
  async function writeBook(message: ListedMessage, text: string, isUndo = false): Promise<void> {
    const { file, pointer, name } = message.book!
    const before = all.value.find(({ id }) => id === message.id)?.texts[0] ?? ''
    writes++
    problem.value = ''
    show(message, [text])
    const asked = Object.entries({ path: file, pointer, name, asItIs: 'true' }).map(([key, value]) => `${key}=${encodeURIComponent(value)}`)
    try {
      await callApi(`${server.base}/named?${asked.join('&')}`, { method: 'PUT', bytes: new Blob([text]) })
      if (!isUndo) undos.push(() => writeBook(message, before, true))
      await tray.refresh()
    } catch (error) {
      show(message, [before])
      problem.value = wordsOf(error)
    }
    void lookAgain()
  }

  /** Puts a text, or one of its lines, into a comment, so that the plugin's own counts; the sheet sets it again. */
  const turnOff = ({ file, pointer, keys }: ListedMessage, line: number | null = null): Promise<void> =>
    operate(file, { kind: 'turn-off', pointer: line === null ? pointer : `${pointer}/${keys?.[line] ?? line}` })
  const toFactory = (message: ListedMessage): Promise<void> =>
    message.book ? writeBook(message, message.shipped![0]!) : operate(message.file, { kind: 'to-factory', pointer: message.pointer })
  async function operate(file: string, operation: Parameters<typeof drafts.together>[0][number]['operation']): Promise<void> {
    problem.value = await drafts.together([{ path: file, operation }])
    if (problem.value === '') undos.push(() => drafts.undo(true))
    void lookAgain()
  }
  type Steps = Parameters<typeof drafts.together>[0]
  /** Does several things as one: where one cannot be done, none is, and one undo takes all back. */
  async function doAll(steps: Steps): Promise<void> {
    problem.value = await drafts.together(steps)
    if (problem.value === '') undos.push(() => drafts.undo(true))
    await drafts.flushAll()
    await load()
  }
  /** Writes several texts; those of text files one by one. */
  async function writeAll(some: readonly { readonly message: ListedMessage; readonly texts: readonly string[] }[]): Promise<void> {
    for (const { message, texts } of some.filter((one) => one.message.book)) await writeBook(message, texts[0]!)
    const inSettings = some.filter(({ message }) => !message.book)
    await doAll(
      inSettings.map(({ message, texts }): Steps[number] => ({
        path: message.file,
        operation: { kind: 'set', pointer: message.pointer, value: toWire(settingValue(message, texts)) },
      })),
    )
  }
  /** Writes texts that may not be there yet. */
  const putAll = (puts: readonly PutText[]): Promise<void> =>
    doAll(
      puts.map((put): Steps[number] => ({
        path: put.file,
        operation: {
          kind: 'put',
          pointer: put.pointer,
          value: toWire(settingValue(put, put.texts)),
          ...(put.after === undefined ? {} : { after: put.after }),
        },
      })),
    )
  async function undo(): Promise<void> {
    await (undos.pop() ?? (() => drafts.undo(true)))()
    await drafts.flushAll()
    await load()
  }

  /** Adds a language that begins as a copy of another: a file of its own, or a section beside the others. */
  async function addLanguage({ base, languages: there }: LanguagesShown, from: string, language: string): Promise<boolean> {
    const source = there.find((one) => one.language === from)!
    if (source.at !== '') await doAll([{ path: source.file, operation: { kind: 'duplicate', pointer: source.at, name: language } }])
    else {
      problem.value = ''
      try {
        await callApi(`${server.base}/messages/languages`, { body: { base, from, language } })
        await Promise.all([tray.refresh(), load()])
      } catch (error) {
        problem.value = wordsOf(error)
      }
    }
    return problem.value === ''
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

  /** The address of the picture beside a text, as that of a server's banner; null where there is none. @param at which of several */
  function pictureOf({ file, pointer }: Pick<ListedMessage, 'file' | 'pointer'>, at: number): string | null {
    const section = pointer.slice(0, pointer.lastIndexOf('/') + 1)
    const beside = pictures.value.filter((one) => one.file === file && one.pointer.startsWith(section) && one.size !== null)
    const one = beside[at % Math.max(1, beside.length)]
    return one ? pictureAddress(one) : null
  }
  const pictureId = ({ file, pointer }: ShownPicture): string => `picture ${file}#${pointer}`
  const pictureAddress = ({ path, size, staged }: ShownPicture): string =>
    `${server.base}/picture?path=${encodeURIComponent(path!)}&of=${size?.width}x${size?.height}${staged ? '-staged' : ''}`

  function move(step: 1 | -1): void {
    const ids = rows.value.flatMap((row) => (row.kind === 'message' ? [row.id] : []))
    const at = ids.indexOf(focus.value)
    const next = ids[at < 0 ? 0 : at + step]
    if (next) focus.value = next
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
    putAll,
    addLanguage,
    languageBase,
    languageState,
    pictures,
    picture,
    pictureOf,
    pictureAddress,
    pictureId,
    serverLanguage,
    toFactory,
    turnOff,
    playing,
    play,
    stop,
    undo,
    move,
  }
})
