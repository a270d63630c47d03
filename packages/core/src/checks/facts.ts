import { nameWords } from '../carry/likeness'
import { isFirst } from '../rules/infer/money-words'
import type { Role, RuleSource } from '../rules/rule'
import { amountOf } from '../tree/compare'
import { audiencesIn, type AudienceFact } from './audience'
import { isContainer, type Entry, type MapNode, type Node } from '../tree/nodes'
import { formatPointer, getNode, parsePointer } from '../tree/pointer'
import { messagesIn } from '../messages/find'
import type { Message } from '../messages/message'
import { namedIn, type NamedFact } from '../messages/named'
import { isLanguage, languagesIn, type LanguageFacts } from '../languages/languages-in'
import { withKin } from './kin'
import { calledAsListed } from './listed-names'
import { looksOf, sourceFor, textOf, type FileLooks, type ValueLook } from './looks'
import { drawsIn, type DrawFact } from './draw-facts'
import { exchangeIn, type ExchangeFact } from './exchange-facts'
import { maybeMoneyIn, type MaybeMoney } from './maybe-money'
import { moneyIn, type MoneyFacts } from './money-facts'
import { OFF, SWITCHES } from './sleeping'
import { withTables } from './drawn-streams'
import { streamsIn, type StreamFact } from './stream-facts'
import { unfolded } from './unfolded'
import type { Workspace, WorkspaceFile } from './workspace'

/** Something a file says that other files have to do with. */
export interface Fact {
  readonly pointer: string
  readonly from: number
  readonly to: number
  readonly text: string
  readonly source: RuleSource
  readonly isShipped: boolean
}

export interface PortFact extends Fact {
  readonly port: number
  readonly sameAs: string | null
  /** Whether it is somebody else's port that is called. */
  readonly isRemote: boolean
}

export interface NodeFact extends Fact {
  /** Whether it is given to somebody; else it is asked for. */
  readonly isGiven: boolean
}

export interface GroupFact {
  readonly name: string
  readonly from: number
  readonly to: number
  readonly nodes: readonly Fact[]
  readonly inherits: readonly Fact[]
}

/** A section with names of its own, which others may refer to. */
export interface NamesFact {
  readonly pointer: string
  readonly names: readonly string[]
  readonly shipped: readonly string[]
}

/** What the settings of one name hold in all entries of a group. */
export interface ColumnFact {
  readonly pattern: string
  readonly values: readonly Fact[]
  /** What the author's own hold. */
  readonly shipped: readonly string[]
}

/** What of a file others have to do with: plain data, which can be kept and sent. */
export interface FileFacts extends MoneyFacts {
  readonly path: string
  readonly plugin: string | null
  readonly ports: readonly PortFact[]
  readonly nodes: readonly NodeFact[]
  /** Settings that could ask for a node, and ask for none. */
  readonly open: readonly Fact[]
  readonly audiences: readonly AudienceFact[]
  readonly groups: readonly GroupFact[]
  /** The group everybody is in who is in no other. */
  readonly everybody: string | null
  readonly names: readonly NamesFact[]
  readonly columns: readonly ColumnFact[]
  readonly languages: readonly LanguageFacts[]
  /** Settings that choose a language. */
  readonly speaks: readonly Fact[]
  /** Texts that players read. */
  readonly messages: readonly Message[]
  /** Pictures and files that it names. */
  readonly named: readonly NamedFact[]
  /** Whether it says what players start with, as plugins do that keep money. */
  readonly keepsMoney: boolean
  /** What it calls several of its money; null where it does not say. */
  readonly moneyName: string | null
  /** The first amount of money that somebody set himself, and that does not name the plugin it needs; null for none. */
  readonly charges: Fact | null
  /** Settings that switch what is beside and below them on or off. */
  readonly switches: readonly (Fact & { readonly isOn: boolean })[]
  /** Where entries of groups stand, from their names to their ends. */
  readonly entries: readonly { readonly pointer: string; readonly from: number; readonly to: number }[]
  /** Settings that move money by themselves, tables that are drawn from, and what other money is worth. */
  readonly streams: readonly StreamFact[]
  readonly draws: readonly DrawFact[]
  readonly exchange: readonly ExchangeFact[]
  /** Settings that may be money and that nothing says so of. */
  readonly maybe: readonly MaybeMoney[]
}

const known = new WeakMap<WorkspaceFile, FileFacts>()

/** What others have to do with; worked out once for a file. */
export function factsOf(workspace: Workspace, file: WorkspaceFile): FileFacts {
  let facts = known.get(file)
  if (!facts) known.set(file, (facts = readFacts(workspace, file)))
  return facts
}

const REMOTE = new Set(['remote', 'target', 'upstream', 'backend', 'proxy', 'database', 'mysql', 'redis', 'smtp'])
const GIVES = new Set(['grant', 'give', 'reward', 'add'])

export const factOf = ({ book }: FileLooks, value: ValueLook): Fact => ({
  pointer: formatPointer(value.keys),
  from: value.node.from,
  to: value.node.to,
  text: value.text,
  source: sourceFor(book, value, 'means'),
  isShipped: value.isShipped,
})

function readFacts({ knowledge }: Workspace, file: WorkspaceFile): FileFacts {
  const looks = looksOf(file)
  const isGroups = knowledge.groups?.file === file.path
  return {
    path: file.path,
    plugin: file.plugin,
    ports: portsIn(file, looks),
    nodes: looks.values.flatMap((value): NodeFact[] =>
      value.rule?.means === 'node' && value.text !== '' && !(isGroups && isBelow(value, knowledge.groups!.at))
        ? [{ ...factOf(looks, value), isGiven: value.keys.some((key) => nameWords(key).some((word) => GIVES.has(word))) }]
        : [],
    ),
    open: looks.values
      .filter(({ rule, text, isItem }) => rule?.means === 'node' && text === '' && !isItem)
      .map((value) => factOf(looks, value)),
    audiences: audiencesIn(looks),
    groups: isGroups ? groupsIn(file, looks, knowledge.groups!.at) : [],
    everybody: isGroups ? everybodyIn(looks, knowledge.groups!.at) : null,
    names: namesIn(looks),
    columns: columnsIn(file, looks),
    languages: languagesIn(file, knowledge.texts),
    speaks: speaksIn(looks),
    messages: messagesIn(file, knowledge.texts),
    named: namedIn(file, looks),
    moneyName: moneyNameIn(looks),
    charges: chargesIn(file, looks),
    switches: switchesIn(looks),
    entries: entriesIn(looks),
    ...tradeIn(knowledge, file),
  }
}

type Trade = MoneyFacts & Pick<FileFacts, 'streams' | 'draws' | 'exchange' | 'maybe' | 'keepsMoney'>

/** All that has to do with money; of a file without sections by those its names stand for. */
function tradeIn({ lists }: Workspace['knowledge'], asIs: WorkspaceFile): Trade {
  const inSections = unfolded(asIs, lists)
  const file = inSections?.file ?? asIs
  const looks = looksOf(file)
  const kin = withKin(looks)
  const draws = drawsIn(file, kin, lists['items'])
  const trade: Trade = {
    ...calledAsListed({ ...moneyIn(file, kin), draws }, lists['items']),
    streams: withTables(streamsIn(file, kin), draws),
    exchange: exchangeIn(file, looks),
    maybe: maybeMoneyIn(file, kin),
    // what newcomers are given by others is no account
    keepsMoney: looks.values.some(
      ({ rule, keys }) => rule?.role === 'start-money' && !keys.slice(0, -1).some((key) => isFirst(nameWords(key))),
    ),
  }
  return inSections ? inSections.told(trade) : trade
}

const SEVERAL = new Set(['many', 'plural', 'several'])

/** Of a file of a money plugin, what stands below its currency for several. */
const moneyNameIn = ({ values }: FileLooks): string | null =>
  values.find(
    ({ keys, node, text }) =>
      node.kind === 'text' &&
      text !== '' &&
      /currency|money/i.test(keys.join('.')) &&
      nameWords(keys.at(-1)!).some((word) => SEVERAL.has(word)),
  )?.text ?? null

function switchesIn(looks: FileLooks): FileFacts['switches'] {
  return looks.values.flatMap((value) => {
    const isSwitch = SWITCHES.test(value.entry.key) && (value.node.kind === 'bool' || value.rule?.means === 'switch')
    const isOn = !OFF.test(value.text)
    return isSwitch ? [{ ...factOf(looks, value), text: value.keys.join('.'), isOn }] : []
  })
}

const SPEAKS = new Set(['language', 'lang', 'locale', 'translation'])

function speaksIn(looks: FileLooks): Fact[] {
  return looks.values.flatMap((value) =>
    !value.isItem && isLanguage(value.text) && SPEAKS.has(nameWords(value.entry.key).at(-1) ?? '') ? [factOf(looks, value)] : [],
  )
}

const CHARGES: ReadonlySet<Role | undefined> = new Set<Role>(['price', 'fee', 'payout'])

function chargesIn({ document }: WorkspaceFile, looks: FileLooks): Fact | null {
  const isAmount = ({ rule, node, isShipped }: ValueLook): boolean =>
    CHARGES.has(rule?.role) && !isShipped && Boolean(amountOf(document, node)) && !rule?.needs?.some((need) => 'plugin' in need)
  const found = looks.values.find(isAmount)
  return found ? factOf(looks, found) : null
}

function entriesIn({ parts }: FileLooks): FileFacts['entries'] {
  return parts.flatMap(({ node, keys }) =>
    node.type === 'map' && keys.length > 0 && node.entries.length > 1 && node.entries.every(({ value }) => isContainer(value))
      ? node.entries.map((entry) => ({ pointer: formatPointer([...keys, entry.key]), from: entry.keyFrom, to: entry.to }))
      : [],
  )
}

const isBelow = ({ keys }: ValueLook, pointer: string): boolean => formatPointer(keys).startsWith(pointer + '/')

function portsIn({ document }: WorkspaceFile, looks: FileLooks): PortFact[] {
  return looks.values.flatMap((value): PortFact[] => {
    if (value.rule?.means !== 'port') return []
    const port = amountOf(document, value.node)
    const isRemote = value.keys.some((key) => nameWords(key).some((word) => REMOTE.has(word)))
    return port === null || port === 0 ? [] : [{ ...factOf(looks, value), port, sameAs: value.rule.sameAs ?? null, isRemote }]
  })
}

function groupsIn(file: WorkspaceFile, looks: FileLooks, at: string): GroupFact[] {
  const section = getNode(file.document, parsePointer(at) ?? [])
  if (section?.type !== 'map') return []
  const below = looks.values.filter((value) => isBelow(value, at))
  const depth = (parsePointer(at) ?? []).length
  return section.entries.map(({ key, keyFrom, keyTo }) => {
    const own = below.filter(({ keys }) => keys[depth] === key)
    const isParent = ({ keys }: ValueLook): boolean => nameWords(keys[depth + 1] ?? '').some((word) => /^(?:inherit|parent)/.test(word))
    const facts = (which: (value: ValueLook) => boolean): Fact[] =>
      own.filter((value) => which(value) && value.text !== '').map((value) => factOf(looks, value))
    return {
      name: key,
      from: keyFrom,
      to: keyTo,
      nodes: facts(
        (value) =>
          value.rule?.means === 'node' ||
          (value.isItem && nameWords(value.keys[depth + 1] ?? '').some((word) => word === 'node' || word === 'permission')),
      ),
      inherits: facts(isParent),
    }
  })
}

const EVERYBODY = new Set(['newcomer', 'default', 'everybody', 'everyone', 'start', 'guest', 'new', 'fallback'])

function everybodyIn(looks: FileLooks, at: string): string | null {
  const named = looks.values.find(
    (value) =>
      !isBelow(value, at) &&
      value.rule?.registry === 'groups' &&
      !value.isItem &&
      value.keys.some((key) => nameWords(key).some((word) => EVERYBODY.has(word))),
  )
  return named?.text ?? null
}

function namesIn({ parts }: FileLooks): NamesFact[] {
  return parts.flatMap(({ node, keys, shipped }): NamesFact[] =>
    node.type === 'map' && keys.length > 0 && node.entries.length > 1 && node.entries.every(({ value }) => isContainer(value))
      ? [{ pointer: formatPointer(keys), names: keysOf(node), shipped: shipped?.type === 'map' ? keysOf(shipped) : [] }]
      : [],
  )
}

const keysOf = ({ entries }: MapNode): string[] => entries.map(({ key }) => key)

/** So many different values a column may hold to be one of names. */
const MOST_VALUES = 60
const IS_NAME = /^[\p{L}_][\p{L}\p{N}_-]*$/u

function columnsIn({ factory }: WorkspaceFile, looks: FileLooks): ColumnFact[] {
  const columns = new Map<string, { values: Fact[]; shipped: Set<string> }>()
  for (const value of looks.values) {
    if (value.node.kind !== 'text' || value.rule?.registry || !IS_NAME.test(value.text) || value.keys.length < 2) continue
    if (value.rule?.means && value.rule.means !== 'id') continue
    const pattern = patternOf(value.keys)
    const column = columns.get(pattern) ?? { values: [], shipped: new Set<string>() }
    column.values.push(factOf(looks, value))
    columns.set(pattern, column)
  }
  if (factory)
    for (const [pattern, column] of columns)
      for (const text of shippedIn(factory.root, pattern.split('/').slice(1), factory)) column.shipped.add(text)
  return [...columns].flatMap(([pattern, { values, shipped }]) =>
    shipped.size > MOST_VALUES ? [] : [{ pattern, values, shipped: [...shipped] }],
  )
}

/** The name of the last section gives way, so that a setting of all entries of a group is one column. */
const patternOf = (keys: readonly string[]): string =>
  formatPointer(keys.map((key, i) => (i === keys.length - 2 || /^\d+$/.test(key) ? '*' : key)))

function shippedIn(node: Node, [key, ...rest]: readonly string[], factory: NonNullable<WorkspaceFile['factory']>): string[] {
  if (key === undefined) return node.type === 'scalar' && node.kind === 'text' ? [textOf(factory, node)] : []
  if (!isContainer(node)) return []
  const fits = (entry: Entry): boolean => key === '*' || formatPointer([entry.key]) === `/${key}`
  return node.entries.filter(fits).flatMap(({ value }) => shippedIn(value, rest, factory))
}
