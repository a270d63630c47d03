import type { Ref } from 'vue'
import type { AskedOfEntry } from '~/stores/entries'
import type { HeadRow } from '~/utils/sheet-rows'

/**
 * What can be done to whole entries in the sheet: copied under a name of their own, renamed, moved, taken out.
 * @param locked whether somebody may only look @param focusOn goes to a row
 */
export function useEntryActs(locked: Ref<boolean>, focusOn: (pointer: string) => Promise<void>) {
  const sheet = useSheetStore()
  const drafts = useDraftsStore()
  const entries = useEntriesStore()
  /** The entry that a copy of is being named. */
  const naming = ref<{ pointer: string; name: string } | null>(null)

  async function startCopy(pointer: string): Promise<void> {
    const name = await drafts.current?.engine.suggestedName(pointer)
    if (name === null) return showEntry(await sheet.duplicate(pointer, null))
    if (name !== undefined) naming.value = { pointer, name }
  }
  async function finishCopy(pointer: string, name: string): Promise<void> {
    await showEntry(await sheet.duplicate(pointer, name))
  }
  /** Goes to the entry that was made or named just now. */
  async function showEntry(isDone: boolean): Promise<void> {
    if (!isDone) return
    naming.value = null
    await sheet.refresh()
    if (sheet.told) await focusOn(sheet.told.pointer)
  }
  /** The entry that the line in focus lies in, which is known a moment after it got the focus. */
  async function entryAt(): Promise<HeadRow | null> {
    if (sheet.snapshot?.focus?.row.pointer !== sheet.focus) await sheet.refresh()
    return locked.value ? null : (sheet.snapshot?.focus?.entry ?? null)
  }
  async function copyEntry(): Promise<void> {
    const entry = await entryAt()
    if (entry) await startCopy(entry.pointer)
  }
  async function ask(what: AskedOfEntry['what'], row?: HeadRow): Promise<void> {
    const entry = row ?? (await entryAt())
    if (entry) await entries.ask(what, entry.pointer, entry.key)
  }
  async function moveEntry(by: 1 | -1, row?: HeadRow): Promise<void> {
    const entry = row ?? (await entryAt())
    if (!entry || !(await sheet.move(entry.pointer, by))) return
    // items of a list are called by their places
    const at = entry.pointer.lastIndexOf('/') + 1
    await focusOn(/^\d+$/.test(entry.key) ? entry.pointer.slice(0, at) + String(Number(entry.key) + by) : entry.pointer)
  }

  return { naming, showEntry, startCopy, finishCopy, copyEntry, ask, moveEntry }
}
