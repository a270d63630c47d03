import { fillIn, type Family } from '../families/family'
import { SECONDS } from '../rules/units'
import { TERM_UNITS, instantOf, type Term } from './term'
import type { Grant, PermissionPlayer } from './model'

/** What is said of one player: a node given, denied or spoken of no more, or a group to be in or to be out of. */
export interface PlayerChange {
  /** The id, or the name of one who has none. */
  readonly player: string
  readonly what: 'node' | 'group'
  /** The node, or the group. */
  readonly name: string
  /** Null where nothing is to be said of it any more; groups are granted or nothing. */
  readonly word: 'granted' | 'denied' | null
  /** For how long; null for good. */
  readonly term: Term | null
}

/** What was said of it before. */
export interface SaidBefore {
  readonly word: 'granted' | 'denied' | null
  /** When it ends, as the permission plugin wrote it; null for never. */
  readonly until: string | null
}

type Commands = NonNullable<Family['permissions']['commands']>

/** Names that may become a part of a command: one word, nothing that a console could take for more. */
const ONE_WORD = /^[\p{L}\p{N}_.*:@/+-]+$/u

/**
 * The console command that says it; null where the family has none for it, it takes no such term, or a name
 * could be taken for more than one word.
 * @param called what the player is called; the id where that is not known
 */
export function commandFor(commands: Commands, change: PlayerChange, called: string): string | null {
  const { player, what, name, word } = change
  const term = change.term && inKnownUnit(change.term, commands)
  const template = what === 'group' ? (word === 'granted' ? commands.join : commands.leave) : templateOf(commands, word)
  if (template === undefined || term === undefined || (term && !template.includes('{term}'))) return null
  if (![player, called, name].every((one) => ONE_WORD.test(one)) || name.startsWith('-')) return null
  const said = fillIn(template, { player: called, id: player, node: name, group: name, term: term ?? '' })
  return said.replaceAll(/ {2,}/g, ' ').trim()
}

/** A term as the console takes it, in the next longer unit where it does not know the one; undefined for none. */
function inKnownUnit(wanted: Term, { term }: Commands): string | undefined {
  const known = TERM_UNITS.slice(TERM_UNITS.indexOf(wanted.unit)).find((one) => term?.[one] !== undefined)
  return known && `${Math.ceil(msOf(wanted) / msOf({ amount: 1, unit: known }))}${term![known]}`
}

const templateOf = ({ grant, deny, clear }: Commands, word: PlayerChange['word']): string | undefined =>
  word === null ? clear : word === 'granted' ? grant : deny

/** A player by id, else by name. */
export const findPlayer = (players: readonly PermissionPlayer[], who: string): PermissionPlayer | undefined =>
  players.find(({ id }) => id === who) ?? players.find(({ name }) => name === who)

/** What is said of something by a player’s own settings now. */
export function saidOf(player: PermissionPlayer | undefined, { what, name }: Pick<PlayerChange, 'what' | 'name'>): SaidBefore {
  if (what === 'group') return { word: player?.groups.includes(name) ? 'granted' : null, until: null }
  const grants = player?.grants.filter(({ node }) => node === name) ?? []
  const grant = grants.find(({ isDenied }) => isDenied) ?? grants[0]
  return grant ? { word: grant.isDenied ? 'denied' : 'granted', until: grant.until } : { word: null, until: null }
}

/**
 * What takes a change back: what was said before, for as long as was left of it.
 * @param now milliseconds since 1970
 */
export function backTo(change: PlayerChange, { word, until }: SaidBefore, now: number): PlayerChange {
  const end = until === null ? null : instantOf(until)
  if (end === null) return { ...change, word, term: null }
  const amount = Math.ceil((end - now) / 60_000)
  return amount > 0 ? { ...change, word, term: { amount, unit: 'minute' } } : { ...change, word: null, term: null }
}

/**
 * Players as they will be once some changes are said, in their order; one nobody knew yet is added.
 * @param changes each with what the player is called, where that is known
 */
export function withChanges(
  players: readonly PermissionPlayer[],
  changes: readonly (PlayerChange & { readonly called?: string })[],
  now: number,
): readonly PermissionPlayer[] {
  const all = new Map(players.map((player) => [player.id, player]))
  for (const change of changes) {
    const there = all.get(change.player) ?? findPlayer([...all.values()], change.player)
    const player = there ?? newPlayer(change.player, change.called ?? change.player)
    all.set(player.id, changed(player, change, now))
  }
  return [...all.values()]
}

const newPlayer = (id: string, name: string): PermissionPlayer => ({
  id,
  name,
  pointer: '',
  from: 0,
  groups: [],
  grants: [],
  grantsAt: { pointer: '', shape: 'missing', count: 0 },
  groupsAt: { pointer: '', shape: 'missing' },
  isOperator: false,
})

const msOf = ({ amount, unit }: Term): number => amount * SECONDS[unit]! * 1000

function changed(player: PermissionPlayer, { what, name, word, term }: PlayerChange, now: number): PermissionPlayer {
  if (what === 'group') {
    const others = player.groups.filter((one) => one !== name)
    return { ...player, groups: word === 'granted' ? [...others, name] : others }
  }
  const others = player.grants.filter(({ node }) => node !== name)
  const until = term && new Date(now + msOf(term)).toISOString()
  const grant: Grant = { node: name, isDenied: word === 'denied', pointer: '', from: 0, to: 0, until, isPlain: true }
  return { ...player, grants: word === null ? others : [...others, grant] }
}
