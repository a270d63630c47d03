import { defineStore } from 'pinia'
import {
  changeGrants,
  changeGroups,
  formatPointer,
  parsePointer,
  type GrantStep,
  type PermissionGroup,
  type PermissionPlayer,
  type PlayerChange,
  type Term,
  type Value,
} from '@pasticcio/core'
import type { Operation } from '~/drafts/engine'
import { toWire } from '~/drafts/wire'
import type { FileStep } from '~/stores/drafts'
import type { StagedCommand } from '~/utils/types'

type Word = 'granted' | 'denied' | null
/** What is said of a player, and what waited for the same before; null for nothing. */
interface SaidStep {
  readonly change: PlayerChange
  readonly before: PlayerChange | null
}

const toOperation = (step: GrantStep): Operation => (step.kind === 'remove' ? step : { ...step, value: toWire(step.value) })

/** What changes rights: groups in their file, players in theirs or by console commands, all in the tray before it is done. */
export const useRightChangesStore = defineStore('right-changes', () => {
  const server = useServerStore()
  const drafts = useDraftsStore()
  const tray = useTrayStore()
  const permissions = usePermissionsStore()
  const problem = computed({ get: () => permissions.problem, set: (words) => (permissions.problem = words) })
  /** What was done here, the last at the end: steps in files, or what was said of players. */
  const done: ('files' | readonly SaidStep[])[] = []

  /** Does something to files as one, keeps it, and looks again. */
  async function operate(steps: readonly FileStep[]): Promise<boolean> {
    if (steps.length === 0) return true
    const wrong = await drafts.together(steps)
    await drafts.flushAll()
    await permissions.load()
    problem.value = wrong
    if (wrong === '') done.push('files')
    return wrong === ''
  }
  const inGroups = (operations: readonly Operation[]): FileStep[] => {
    const { file } = permissions.answer
    return file === null ? [] : operations.map((operation) => ({ path: file, operation }))
  }
  const ofGroups = (operations: readonly Operation[]): Promise<boolean> => operate(inGroups(operations))

  /** Gives nodes to a group, denies them, or says nothing of them any more. */
  async function change(name: string, nodes: string | readonly string[], to: Word): Promise<void> {
    const group = permissions.groupBy(name)
    if (group) await ofGroups(changeGrants(group, typeof nodes === 'string' ? [nodes] : nodes, to).map(toOperation))
  }

  /** The same for a player alone: in the file of players, or as a command that waits in the tray. */
  async function changePlayer(id: string, what: PlayerChange['what'], name: string, word: Word, term: Term | null = null): Promise<void> {
    const { players } = permissions.answer
    if (players.by === 'commands') return say([{ player: id, what, name, word, term }])
    const player = permissions.playerBy(id)
    const { file } = players
    if (file === null) return
    if (!player) return enter(file, id, what, name, word)
    const steps = what === 'group' ? changeGroups(player, name, word === 'granted') : changeGrants(player, [name], word)
    if (steps === null) problem.value = `How ${player.name || id} is put into groups is not known here. Follow the line to the sheet.`
    else await operate(steps.map((step) => ({ path: file, operation: toOperation(step) })))
  }

  /** One who does not stand in the file yet gets an entry like those of others, where there is something to say. */
  async function enter(file: string, id: string, what: PlayerChange['what'], name: string, word: Word): Promise<void> {
    if (word === null) return
    const { at } = permissions.answer.players
    const like = permissions.permissions.players.find(({ pointer }) => pointer.startsWith(`${at}/`))
    const keyOf = (pointer: string | undefined, bare: string): string => parsePointer(pointer ?? '')?.at(-1) ?? bare
    const entry = at + formatPointer([id])
    const key = what === 'group' ? keyOf(like?.groupsAt.pointer, 'groups') : keyOf(like?.grantsAt.pointer, 'nodes')
    const isMap = what === 'node' && like?.grantsAt.shape === 'map'
    const value = isMap ? word === 'granted' : [word === 'denied' ? `-${name}` : name]
    const pointer = entry + formatPointer(isMap ? [key, name] : [key])
    await operate([{ path: file, operation: { kind: 'put', pointer, value } }])
  }

  /** The same for several players; commands are one step back. */
  async function changePlayers(
    ids: readonly string[],
    what: PlayerChange['what'],
    name: string,
    word: Word,
    term: Term | null,
  ): Promise<void> {
    if (permissions.answer.players.by === 'commands') return say(ids.map((player) => ({ player, what, name, word, term })))
    for (const id of ids) await changePlayer(id, what, name, word, term)
  }

  /** Stages what is to be said of players, all of it as one step back. */
  async function say(changes: readonly PlayerChange[]): Promise<void> {
    problem.value = ''
    const steps = changes.map((one): SaidStep => ({ change: one, before: stagedFor(one)?.change ?? null }))
    const wrong = await stage(changes)
    if (steps.length > 0 && wrong === '') done.push(steps)
    problem.value = wrong
  }

  async function stage(changes: readonly PlayerChange[]): Promise<string> {
    try {
      for (const body of changes) await callApi<StagedCommand[]>(`${server.base}/permissions/player`, { method: 'PUT', body })
      return ''
    } catch (error) {
      return wordsOf(error)
    } finally {
      await Promise.all([tray.refresh(), permissions.load()])
    }
  }

  const stagedFor = ({ player, what, name }: PlayerChange): StagedCommand | undefined =>
    permissions.answer.staged.find(({ change }) => change.player === player && change.what === what && change.name === name)

  /** Copies a group under another name. */
  const copy = (group: PermissionGroup, name: string): Promise<boolean> => ofGroups([{ kind: 'duplicate', pointer: group.pointer, name }])

  /** A group of nothing yet, beside another and with settings of the same names. */
  function add({ pointer, at, inheritsAt, grantsAt, weight }: PermissionGroup, name: string): Promise<boolean> {
    const keyOf = (place: string): string => parsePointer(place)?.at(-1) ?? ''
    const value = new Map<string, Value>([
      [keyOf(at.prefix), ''],
      [keyOf(at.weight), weight ?? 0],
      [keyOf(inheritsAt), []],
      [keyOf(grantsAt.pointer), grantsAt.shape === 'map' ? new Map() : []],
    ])
    const place = pointer.slice(0, pointer.lastIndexOf('/')) + formatPointer([name])
    return ofGroups([{ kind: 'put', pointer: place, value: toWire(value) }])
  }

  /** A group inherits from another, or from it no more. What would go round in a circle is refused. */
  async function inherit(group: PermissionGroup, parent: string): Promise<void> {
    const there = group.inherits.find(({ name }) => name === parent)
    if (there) return void (await ofGroups([{ kind: 'remove', pointer: there.pointer }]))
    if (parent === group.name || permissions.book.inherits(parent, group.name)) {
      problem.value = `${parent} inherits from ${group.name}, so that it would go round in a circle.`
      return
    }
    const names = [...group.inherits.map(({ name }) => name), parent]
    await ofGroups([{ kind: 'put', pointer: group.inheritsAt, value: toWire(names) }])
  }

  /** Sets what a group has before or behind names, or its weight. */
  const setWords = (group: PermissionGroup, what: 'prefix' | 'suffix', text: string): Promise<boolean> =>
    ofGroups([{ kind: 'put', pointer: group.at[what], value: text }])
  const setWeight = (group: PermissionGroup, weight: number): Promise<boolean> =>
    ofGroups([{ kind: 'put', pointer: group.at.weight, value: weight }])

  /** Moves a group to another place in the order of promotion. */
  async function promote(from: number, to: number): Promise<void> {
    const pointer = permissions.permissions.ladder[from]?.pointer
    if (pointer === undefined || from === to) return
    const at = pointer.slice(0, pointer.lastIndexOf('/'))
    const by = to > from ? 1 : -1
    const steps = Array.from({ length: Math.abs(to - from) }, (_step, i): Operation => {
      return { kind: 'move', pointer: `${at}/${from + i * by}`, by }
    })
    await ofGroups(steps)
  }

  /** Takes a group out, with what other groups and the order of promotion say of it. Newcomers’ own stays. */
  async function remove(group: PermissionGroup): Promise<boolean> {
    const { groups, ladder, everybody } = permissions.permissions
    if (everybody === group.name) {
      problem.value = `Newcomers start in ${group.name}. Name another group for them first, in ${permissions.answer.file}.`
      return false
    }
    const named = [...groups.flatMap(({ inherits }) => inherits), ...ladder].filter(({ name }) => name === group.name)
    // what stands behind goes first, so that what is before keeps its place
    const pointers = [...named.map(({ pointer }) => pointer).reverse(), group.pointer]
    return ofGroups(pointers.map((pointer): Operation => ({ kind: 'remove', pointer })))
  }

  /** Players of a group that has another name by now are put into that, where this goes by commands. */
  async function moved(from: string, to: string): Promise<void> {
    done.push('files')
    await permissions.load()
    const members = permissions.permissions.players.filter(({ groups }) => groups.includes(from))
    const { players } = permissions.answer
    if (members.length === 0 || players.by === null) return
    const both = ({ id }: PermissionPlayer): PlayerChange[] => [
      { player: id, what: 'group', name: to, word: 'granted', term: null },
      { player: id, what: 'group', name: from, word: null, term: null },
    ]
    if (players.by === 'commands') await say(members.flatMap(both))
  }

  /** Takes back what was done here last. */
  async function undo(): Promise<void> {
    const last = done.pop()
    if (last === undefined || last === 'files') {
      drafts.undo(true)
      await drafts.flushAll()
      await permissions.load()
      return
    }
    // what waited before waits again; where nothing did, what waits now goes
    const gone = last.flatMap(({ change: one, before }) => (before === null ? (stagedFor(one)?.id ?? []) : []))
    for (const id of gone) await tray.discardCommand(id)
    problem.value = tray.problem || (await stage(last.flatMap(({ before }) => before ?? []).reverse()))
  }

  return { change, changePlayer, changePlayers, add, copy, inherit, setWords, setWeight, promote, remove, moved, undo }
})
