import { shallowRef, type ShallowRef } from 'vue'
import { applyEdits, invertEdits, trimEdit, type Edit } from '@pasticcio/core'
import type { DraftView, FileView, SavedDraft } from '../utils/types'
import type { Operation, OperationResult } from './engine'
import type { EntryTold } from './operations'

/** `kept`: the server has it. `conflict`: somebody else changed it meanwhile; both sides are here. */
export type DraftState = 'clean' | 'waiting' | 'saving' | 'kept' | 'conflict' | 'failed'

/** What is sent to be kept. */
export interface Kept {
  readonly path: string
  readonly text: string
  readonly baseSha: string
  readonly draftSha: string | null
}

/** Somebody else's draft came first. */
export class DraftChanged extends Error {
  constructor(
    message: string,
    readonly theirs: DraftView,
  ) {
    super(message)
    this.name = 'DraftChanged'
  }
}

/** What a draft needs of the world. */
export interface DraftPorts {
  readonly engine: {
    edit(edits: readonly Edit[]): unknown
    operate(operation: Operation): OperationResult | Promise<OperationResult>
  }
  /**
   * Keeps the draft. @returns its hash, null when it reads like the file, and the text where somebody else's changes were
   * brought together with it @throws DraftChanged, or any error with words
   */
  keep(draft: Kept): Promise<SavedDraft>
  /** Called after the text changed, and after something was kept; with whose changes came along. */
  readonly changed?: (what: 'text' | 'kept', mergedWith?: string) => void
  readonly saveAfterMs?: number
}

/** A settings file somebody works on. Without Pinia and the network, so that it can be tried by itself. */
export interface Draft {
  readonly view: FileView
  readonly text: ShallowRef<string>
  readonly state: ShallowRef<DraftState>
  /** What went wrong last, in words; empty for nothing. */
  readonly problem: ShallowRef<string>
  readonly theirs: ShallowRef<DraftView | null>
  /** Counts every change of the text. */
  readonly version: ShallowRef<number>
  /** What came of the entry that was copied, added or renamed last. */
  readonly told: ShallowRef<EntryTold | null>
  /** Which step `undo` would take back, and `redo` would do again; 0 for none. */
  lastStep(): number
  nextStep(): number
  edit(edits: readonly Edit[]): void
  /** @returns whether it could be done */
  operate(operation: Operation): Promise<boolean>
  undo(): void
  redo(): void
  /** What waits to be kept is kept now. */
  flush(): Promise<void>
  /** What waits to be kept or is on its way, for a page that is being left; what waited counts as kept then. */
  takeWaiting(): Kept | null
  /** What was begun and is not in the text yet, for a page that is being left; it is not done here any more. */
  takeBegun(): readonly Operation[]
  /** Settles a conflict: theirs takes the place of mine, which `undo` brings back; or mine is kept over theirs. */
  settle(choice: 'mine' | 'theirs'): Promise<void>
  close(): void
}

const SAVE_AFTER_MS = 350

/** One change, with the edits that take it back; it keeps its number as it goes back and forth. */
interface Step {
  readonly id: number
  readonly back: readonly Edit[]
}

export function createDraft(view: FileView, ports: DraftPorts): Draft {
  const text = shallowRef(view.draft?.text ?? view.text)
  const state = shallowRef<DraftState>(view.draft ? 'kept' : 'clean')
  const problem = shallowRef('')
  const theirs = shallowRef<DraftView | null>(null)
  const version = shallowRef(0)
  const told = shallowRef<EntryTold | null>(null)
  let baseSha = view.draft?.baseSha ?? view.sha
  let draftSha = view.draft?.sha ?? null
  const undoStack: Step[] = []
  const redoStack: Step[] = []
  let steps = 0
  let timer: ReturnType<typeof setTimeout> | null = null
  let saving: Promise<void> | null = null
  /** Operations are worked out one after the other, each on the text the one before left. */
  let operations: Promise<unknown> = Promise.resolve()
  const begun = new Set<{ readonly operation: Operation }>()
  let open = true

  function apply(edits: readonly Edit[]): readonly Edit[] {
    const back = invertEdits(text.value, edits)
    text.value = applyEdits(text.value, edits)
    version.value++
    ports.engine.edit(edits)
    if (state.value !== 'conflict') state.value = 'waiting'
    ports.changed?.('text')
    schedule()
    return back
  }

  function edit(edits: readonly Edit[]): void {
    if (edits.length === 0) return
    undoStack.push({ id: ++steps, back: apply(edits) })
    redoStack.length = 0
  }

  function step(from: Step[], to: Step[]): void {
    const last = from.pop()
    if (last) to.push({ id: last.id, back: apply(last.back) })
  }

  function operate(operation: Operation): Promise<boolean> {
    // the same may be asked for twice
    const own = { operation }
    begun.add(own)
    const done = operations.then(async () => {
      for (;;) {
        const before = version.value
        const result = await ports.engine.operate(operation)
        // who left the page has it done by the next one
        if (!begun.has(own)) return false
        // where somebody typed in between, what was worked out does not fit any more
        if (version.value === before || !open) return take(result)
      }
    })
    operations = done.catch(() => undefined).finally(() => begun.delete(own))
    return done
  }

  function take(result: OperationResult): boolean {
    problem.value = 'problem' in result ? result.problem : ''
    if ('problem' in result) return false
    edit(result.edits)
    told.value = result.entry ?? told.value
    return true
  }

  function schedule(): void {
    if (timer) clearTimeout(timer)
    timer = null
    if (open && state.value === 'waiting') timer = setTimeout(() => void save(), ports.saveAfterMs ?? SAVE_AFTER_MS)
  }

  const waiting = (): Kept => ({ path: view.path, text: text.value, baseSha, draftSha })

  function save(): Promise<void> {
    if (timer) clearTimeout(timer)
    timer = null
    // one at a time: the next one is made from what this one leaves
    saving ??= saveNow().finally(() => {
      saving = null
      schedule()
    })
    return saving
  }

  async function saveNow(): Promise<void> {
    const sent = waiting()
    state.value = 'saving'
    try {
      const saved = await ports.keep(sent)
      problem.value = ''
      ;({ baseSha, draftSha } = saved)
      if (saved.merged) takeMerged(sent, saved.merged)
      state.value = text.value !== (saved.merged?.text ?? sent.text) ? 'waiting' : draftSha === null ? 'clean' : 'kept'
      ports.changed?.('kept', saved.merged?.with)
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error)
      state.value = error instanceof DraftChanged ? 'conflict' : 'failed'
      if (error instanceof DraftChanged) theirs.value = error.theirs
    }
  }

  /** What was brought together takes the place of what was sent; where more was typed since, the next save does so. */
  function takeMerged(sent: Kept, merged: NonNullable<SavedDraft['merged']>): void {
    if (text.value !== sent.text) {
      draftSha = merged.sentSha
      return
    }
    const whole = trimEdit(text.value, { from: 0, to: text.value.length, insert: merged.text })
    if (!whole) return
    apply([whole])
    // going back over it would take out what somebody else did
    undoStack.length = redoStack.length = 0
  }

  async function flush(): Promise<void> {
    await operations
    if (saving) await saving
    if (state.value === 'waiting' || state.value === 'failed') await save()
  }

  function takeWaiting(): Kept | null {
    // what is on its way may be stopped with the page, or was stopped just now; sent twice it is the same
    if (state.value === 'saving' || state.value === 'failed') return waiting()
    if (state.value !== 'waiting') return null
    if (timer) clearTimeout(timer)
    timer = null
    state.value = 'kept'
    return waiting()
  }

  function takeBegun(): readonly Operation[] {
    const left = [...begun].map(({ operation }) => operation)
    begun.clear()
    return left
  }

  async function settle(choice: 'mine' | 'theirs'): Promise<void> {
    const other = theirs.value
    if (!other) return
    draftSha = other.sha
    theirs.value = null
    problem.value = ''
    state.value = 'waiting'
    if (choice === 'theirs') {
      const whole = trimEdit(text.value, { from: 0, to: text.value.length, insert: other.text })
      if (whole) edit([whole])
    }
    await save()
  }

  function close(): void {
    open = false
    if (timer) clearTimeout(timer)
    timer = null
  }

  return {
    view,
    text,
    state,
    problem,
    theirs,
    version,
    told,
    lastStep: () => undoStack.at(-1)?.id ?? 0,
    nextStep: () => redoStack.at(-1)?.id ?? 0,
    edit,
    operate,
    undo: () => step(undoStack, redoStack),
    redo: () => step(redoStack, undoStack),
    flush,
    takeWaiting,
    takeBegun,
    settle,
    close,
  }
}
