import { defineStore } from 'pinia'
import { formatPointer, parsePointer, type Role, type TextAround } from '@pasticcio/core'
import type { FileStep } from '~/stores/drafts'

/** One number to be written, as it is typed. */
export interface NumberChange {
  readonly file: string
  readonly pointer: string
  readonly to: string
  /** Where the number stands in a text, what is around it. */
  readonly around?: TextAround | null
}

/** Amounts and weights are written with digits, and a point where they have parts. */
const NUMBER = /^\d+(?:\.\d+)?$/

/** What changes numbers of the economy: each in the draft of its own file, several of them as one step. */
export const useEconomyChangesStore = defineStore('economy-changes', () => {
  const drafts = useDraftsStore()
  const economy = useEconomyStore()
  const server = useServerStore()
  const isBusy = ref(false)

  /** Writes numbers into the drafts of their files. @returns whether all could be written; where one could not, none is */
  async function write(changes: readonly NumberChange[]): Promise<boolean> {
    if (changes.length === 0) return true
    isBusy.value = true
    const wrong = await drafts.together(stepsOf(changes))
    await after()
    economy.problem = wrong
    return wrong === ''
  }
  /**
   * Writes what was typed into a field; what is no number is told, and the field shows again what the setting says.
   * @param of what it is, what it is called, and what it says now
   */
  async function type(
    field: HTMLInputElement,
    at: Omit<NumberChange, 'to'>,
    of: { what: string; name: string; says: number },
  ): Promise<void> {
    const to = field.value.trim()
    if (to === String(of.says)) return
    if (NUMBER.test(to)) return void (await write([{ ...at, to }]))
    economy.problem = `“${to}” is no ${of.what}. ${of.name} keeps ${of.says}.`
    field.value = String(of.says)
  }
  async function undo(): Promise<void> {
    drafts.undo(true)
    await after()
  }
  /** What is kept is read anew, so that all that hangs on it is reckoned with it. */
  async function after(): Promise<void> {
    try {
      await drafts.flushAll()
      await economy.load()
    } finally {
      isBusy.value = false
    }
  }
  /** Says what a setting is in the trade, and that it is a mere number where it is no money; it is reckoned with from then on. */
  async function sayWhat({ file, path }: { file: string; path: string }, role: Role | null): Promise<void> {
    isBusy.value = true
    economy.problem = ''
    try {
      await callApi(`${server.base}/rules`, {
        method: 'PUT',
        body: { path: file, rule: role ? { path, role } : { path, means: 'number' } },
      })
      await economy.load()
    } catch (error) {
      economy.problem = wordsOf(error)
    } finally {
      isBusy.value = false
    }
  }
  return { isBusy, write, type, undo, sayWhat }
})

/** All of a file in one step. */
function stepsOf(changes: readonly NumberChange[]): FileStep[] {
  const byFile = new Map<string, NumberChange[]>()
  for (const change of changes) byFile.set(change.file, [...(byFile.get(change.file) ?? []), change])
  return [...byFile].map(([path, own]) => ({
    path,
    operation: {
      kind: 'cells',
      pointer: '',
      changes: own.map(({ pointer, to, around }) => {
        const keys = parsePointer(pointer) ?? []
        return {
          row: formatPointer(keys.slice(0, -1)),
          column: formatPointer(keys.slice(-1)),
          value: around ? `${around.before}${to}${around.after}` : to,
        }
      }),
    },
  }))
}
