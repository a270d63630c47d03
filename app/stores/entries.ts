import { defineStore } from 'pinia'
import type { EntryTemplate } from '~/drafts/templates'
import type { FileStep } from '~/stores/drafts'
import type { CopiedTo, GroupFound, ReferencesTo, ShownReference } from '~/utils/types'

/** What somebody is asked about an entry. */
export interface AskedOfEntry {
  readonly what: 'rename' | 'remove' | 'copy' | 'add'
  /** The entry, or the section or list that one is added to. */
  readonly pointer: string
  readonly name: string
  /** The file it stands in. */
  readonly path: string
}

/** Where an entry is copied to. */
export interface CopyTarget {
  readonly server: string
  readonly path: string
  readonly group: string
  readonly name: string
}

/** What is done to whole entries of the file at hand, and to what refers to them elsewhere. */
export const useEntriesStore = defineStore('entries', () => {
  const server = useServerStore()
  const sheet = useSheetStore()
  const drafts = useDraftsStore()
  const asked = shallowRef<AskedOfEntry | null>(null)
  /** Null while they are looked for. */
  const references = shallowRef<readonly ShownReference[] | null>(null)
  const chosen = ref<readonly number[]>([])
  const templates = shallowRef<readonly EntryTemplate[]>([])
  const problem = ref('')
  const isBusy = ref(false)

  /** Asks about an entry, of the file at hand where no other is named; who refers to it is looked for in all files first. */
  async function ask(what: AskedOfEntry['what'], pointer: string, name: string, path = sheet.view?.path ?? ''): Promise<void> {
    const now = { what, pointer, name, path }
    asked.value = now
    references.value = null
    chosen.value = []
    problem.value = ''
    try {
      if (what === 'add') templates.value = (await drafts.current?.engine.templates(pointer)) ?? []
      else if (what !== 'copy') await findReferences(now)
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  async function findReferences(now: AskedOfEntry): Promise<void> {
    await drafts.flushAll()
    const query = new URLSearchParams({ path: now.path, pointer: now.pointer })
    const told = await callApi<ReferencesTo>(`${server.base}/references?${query}`)
    if (asked.value !== now) return
    if (told.name !== null) asked.value = { ...now, name: told.name }
    references.value = told.references
    chosen.value = told.references.flatMap(({ isSure }, i) => (isSure ? [i] : []))
    if (now.what === 'remove' && told.references.length === 0) await remove()
  }

  async function run(work: () => Promise<string>): Promise<boolean> {
    const now = asked.value
    isBusy.value = true
    problem.value = await work().catch(wordsOf)
    isBusy.value = false
    if (problem.value !== '') return false
    // somebody may have asked for the next already
    if (asked.value === now) asked.value = null
    return true
  }

  /** Gives the entry another name, and along with it what was chosen of what refers to it. */
  function rename(name: string): Promise<boolean> {
    const { pointer, name: from, path } = asked.value!
    const picked = chosen.value.map((at) => references.value![at]!)
    const placesIn = (file: string): readonly Pick<ShownReference, 'pointer' | 'what'>[] =>
      picked.filter((one) => one.file === file).map(({ pointer: at, what }) => ({ pointer: at, what }))
    const others = new Set(picked.map(({ file }) => file).filter((file) => file !== path))
    const steps: FileStep[] = [
      { path, operation: { kind: 'rename', pointer, name, places: placesIn(path) } },
      ...[...others].map((file): FileStep => {
        return { path: file, operation: { kind: 'references', pointer: '', places: placesIn(file), from, to: name } }
      }),
    ]
    return run(() => drafts.together(steps))
  }

  const remove = (): Promise<boolean> => run(async () => ((await sheet.remove(asked.value!.pointer)) ? '' : sheet.problem))

  /** Adds an entry made from another one. */
  function add(template: EntryTemplate, name: string | null): Promise<boolean> {
    const group = asked.value!.pointer
    const work = template.side === 'mine' ? sheet.duplicate(template.pointer, name) : sheet.add(group, template.pointer, name)
    return run(async () => ((await work) ? '' : sheet.problem))
  }

  const groupsOf = (slug: string, path: string): Promise<GroupFound[]> =>
    callApi<GroupFound[]>(`/api/servers/${slug}/groups?path=${encodeURIComponent(path)}`)

  /** Copies the entry into another file. @param trial only says what would not fit there */
  async function copyTo(target: CopyTarget, trial: boolean): Promise<CopiedTo> {
    await sheet.draft?.flush()
    const { server: slug, path, group, name } = target
    const from = { server: server.slug, path: sheet.view!.path, pointer: asked.value!.pointer }
    const copied = await callApi<CopiedTo>(`/api/servers/${slug}/entries`, { body: { from, path, group, name: name || null, trial } })
    if (!trial && slug === server.slug) await Promise.all([useTrayStore().refresh(), server.refresh()])
    if (!trial && slug === server.slug && path === sheet.view!.path) await sheet.reload()
    return copied
  }

  return { asked, references, chosen, templates, problem, isBusy, ask, rename, remove, add, groupsOf, copyTo }
})
