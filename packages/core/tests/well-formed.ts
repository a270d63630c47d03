/*
 * Servers that are as they should be: plugins with settings of all kinds, some as they were shipped and some changed in ways
 * their authors allow. What is wrong with one of these is a false alarm.
 */

export type Random = () => number

type Plain = boolean | number | string | readonly Plain[] | { readonly [key: string]: Plain }

interface Setting {
  readonly key: string
  readonly says: string
  readonly shipped: Plain
  readonly mine: Plain
}

export interface MadePlugin {
  readonly name: string
  readonly nodes: Readonly<Record<string, string>>
  readonly commands: Readonly<Record<string, string>>
  readonly placeholders: Readonly<Record<string, string>>
}

export interface MadeServer {
  readonly plugins: readonly MadePlugin[]
  /** Texts by path: as they are, and as they were shipped. */
  readonly files: Readonly<Record<string, { readonly mine: string; readonly shipped: string }>>
  readonly lists: Readonly<Record<string, ReadonlySet<string>>>
  readonly groupsFile: string
}

const WORDS = 'reed clay eel kiln lamp rope cask oar mead candle anchor sail net crock hook kettle map token creel thatch'.split(' ')
const MAKES = ['', 'old_', 'fine_', 'wet_', 'small_']
const PLACES = ['delta', 'upriver', 'saltpans', 'undertow']
const SOUNDS = ['splash', 'horn', 'gull', 'hammer', 'drip']

class Maker {
  readonly items = new Set(MAKES.flatMap((make) => WORDS.map((word) => make + word)))
  private port = 41_000

  constructor(private readonly random: Random) {}

  below(count: number): number {
    return Math.floor(this.random() * count)
  }

  pick<T>(list: readonly T[]): T {
    return list[this.below(list.length)]!
  }

  some<T>(list: readonly T[], count: number): T[] {
    const left = [...list]
    return Array.from({ length: Math.min(count, left.length) }, () => left.splice(this.below(left.length), 1)[0]!)
  }

  isChanged(): boolean {
    return this.random() < 0.4
  }

  private item = (): string => this.pick([...this.items])

  /** A setting of each kind, with what its author says of it. */
  settings(plugin: string): Setting[] {
    const port = ++this.port
    const free = (this.port += 50)
    const kinds: readonly (() => Setting)[] = [
      () => this.setting('show', 'Whether it is shown.', true, false),
      () => this.setting('rows', `How many rows, 1 to 6.`, 3, 1 + this.below(6)),
      () => this.setting('share', 'The share that is kept, 0 to 1.', 0.25, this.below(101) / 100),
      () => this.setting('refresh', 'How often it is drawn anew, in seconds. At least 5.', 60, 5 + this.below(300)),
      () => this.setting('fade', 'In ticks (20 ticks are one second).', 40, 20 + this.below(200)),
      () => this.setting('keep-for', 'Days it is kept, 1 to 90.', 14, 1 + this.below(90)),
      () => this.setting('order', 'One of: name, rank, tide, none', 'name', this.pick(['rank', 'tide', 'none'])),
      () => this.setting('icon', 'Any item of the game.', this.item(), this.item()),
      () => this.setting('sound', 'Any sound the game knows.', this.pick(SOUNDS), this.pick(SOUNDS)),
      () => this.setting('closed-in', 'Places where it is closed.', [PLACES[3]!], []),
      () =>
        this.setting(
          'greeting',
          'Markup allowed. Knows {player} and {count}.',
          '[b]{player}[/b] is here, {count} in all.',
          '[amber]Welcome[/], {player}! {count} are here.',
        ),
      () => this.setting('title', 'At most 32 letters.', 'The delta', '[amber]The quiet delta[/]'),
      () =>
        this.setting(
          'lines',
          'Four lines at most.',
          ['Mind the tide.', 'Be kind.'],
          ['Mind the tide.', 'Be kind.', 'Ask a warden, {player}.'],
        ),
      () => this.setting('gift', 'Items and how many.', [`${this.item()} 4`, `${this.item()} 16`], [`${this.item()} 8`]),
      () => this.setting('opens-at', 'UTC.', '17:30', `${10 + this.below(10)}:${10 + this.below(50)}`),
      () => this.setting('colour', 'Six digits after a #.', '#C9C6BE', `#${(0x100000 + this.below(0xefffff)).toString(16)}`),
      () => this.setting('port', 'It must be free.', port, free),
      () => this.setting('host', 'Where it listens.', '127.0.0.1', this.pick(['0.0.0.0', 'tide.example', '10.0.0.7'])),
      () =>
        this.setting('page', 'Shown to those who come.', 'https://fair.example/tonight', `http://row.example:8080/a?b=${this.below(9)}`),
      () =>
        this.setting(
          'staff',
          'Players who may always in, by their ids.',
          ['77000000000000012'],
          ['77000000000000012', `7700000000000${1000 + this.below(8999)}`],
        ),
      () => this.setting('node', 'The permission node, empty for everybody.', `${plugin}.use`, this.pick([`${plugin}.use`, ''])),
      () => this.setting('commands', 'Run on the console.', ['say The lamps are lit.'], ['say {player} is here.', `${plugin} now`]),
      () => this.setting('spread', 'How far it reaches, in steps.', 12, this.below(200)),
      () => this.setting('offset', 'Steps to the side.', 2, -this.below(20)),
      () => this.setting('greeting-empty', 'Empty says nothing.', 'Hello', ''),
    ]
    return this.some(kinds, 4 + this.below(12)).map((make) => make())
  }

  private setting(key: string, says: string, shipped: Plain, other: Plain): Setting {
    return { key, says, shipped, mine: this.isChanged() ? other : shipped }
  }

  /** A group of like entries, of which the administrator may have more. */
  group(): Setting {
    const entry = (): Plain => {
      const goods = this.some([...this.items], 1 + this.below(4))
      const price = 20 + this.below(90)
      return {
        name: `The ${this.pick(WORDS)} stall`,
        icon: this.item(),
        rows: 2,
        goods,
        slots: this.some(
          Array.from({ length: 18 }, (_, i) => i),
          goods.length,
        ),
        price,
        cooldown: 60 * (1 + this.below(20)),
        node: '',
        places: this.some(PLACES.slice(0, 3), 1),
      }
    }
    const shipped = Object.fromEntries(Array.from({ length: 2 + this.below(3) }, (_, i) => [`stall-${i}`, entry()]))
    const mine = this.isChanged() ? { ...shipped, 'our-own': entry() } : shipped
    const says =
      'The stalls. Copy a block to make another.\n  rows      rows of nine slots, 1 to 6\n  slots     where they stand, counted from 0\n  cooldown  minutes until it can be claimed again\n  price     in marks, 0 is free'
    return { key: 'stalls', says, shipped, mine }
  }
}

/** Numbers from 0 to 1 that are always the same for a seed (mulberry32). */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
}

/** Makes a server. @param random numbers from 0 to 1, always the same ones for the same server */
export function makeServer(random: Random): MadeServer {
  const maker = new Maker(random)
  const names = maker.some(['Lampworks', 'Reedmen', 'Ferrybell', 'Kilnhouse', 'Tidemark', 'Quayside', 'Saltway'], 2 + maker.below(5))
  const plugins = names.map((name): MadePlugin => {
    const id = name.toLowerCase()
    return {
      name,
      nodes: { [`${id}.use`]: 'Use it', [`${id}.admin`]: 'Change it' },
      commands: { [id]: 'See it' },
      placeholders: { '{player}': 'Who', '{count}': 'How many' },
    }
  })
  const files: Record<string, { mine: string; shipped: string }> = {}
  for (const { name } of plugins) {
    const settings = [...maker.settings(name.toLowerCase()), ...(maker.isChanged() ? [maker.group()] : [])]
    const [ending, write] = maker.pick([
      ['yml', yaml],
      ['lua', lua],
      ['yml', yaml],
    ] as const)
    const path = `extras/${name}/settings.${ending}`
    files[path] = { mine: write(settings, 'mine'), shipped: write(settings, 'shipped') }
    const texts = maker.settings(name.toLowerCase()).filter(({ shipped }) => typeof shipped !== 'object')
    files[`extras/${name}/more.json`] = { mine: json(texts, 'mine'), shipped: json(texts, 'shipped') }
  }
  const groups = `# What newcomers get.\nnewcomers:\n  # The group they start in.\n  group: mudlark\ngroups:\n  mudlark:\n    inherits: []\n    nodes: [${names.map((name) => `${name.toLowerCase()}.use`).join(', ')}]\n  warden:\n    inherits: [mudlark]\n    nodes: ['*']\n`
  const groupsFile = 'extras/Ranks/settings.yml'
  files[groupsFile] = { mine: groups, shipped: groups }
  const lists = { items: maker.items, sounds: new Set(SOUNDS), places: new Set(PLACES), groups: new Set(['mudlark', 'warden']) }
  return { plugins, files, lists, groupsFile }
}

type Which = 'mine' | 'shipped'

const comment = (says: string, mark: string, indent: string): string =>
  says
    .split('\n')
    .map((line) => `${indent}${mark} ${line}\n`)
    .join('')

function yaml(settings: readonly Setting[], which: Which): string {
  const value = (data: Plain, indent: string): string => {
    if (Array.isArray(data)) return ` [${data.map((item: Plain) => JSON.stringify(item)).join(', ')}]\n`
    if (typeof data !== 'object') return ` ${JSON.stringify(data)}\n`
    return (
      '\n' +
      Object.entries(data)
        .map(([key, item]) => `${indent}${key}:${value(item, indent + '  ')}`)
        .join('')
    )
  }
  return settings.map(({ key, says, ...data }) => `${comment(says, '#', '')}${key}:${value(data[which], '  ')}`).join('\n')
}

function lua(settings: readonly Setting[], which: Which): string {
  const name = (key: string): string => (/^[a-z_]+$/.test(key) ? key : `["${key}"]`)
  const value = (data: Plain): string => {
    if (Array.isArray(data)) return `{ ${data.map((item: Plain) => JSON.stringify(item)).join(', ')} }`
    if (typeof data !== 'object') return JSON.stringify(data)
    return `{\n${Object.entries(data)
      .map(([key, item]) => `    ${name(key)} = ${value(item)},\n`)
      .join('')}  }`
  }
  return `return {\n${settings.map(({ key, says, ...data }) => `${comment(says, '--', '  ')}  ${name(key)} = ${value(data[which])},\n`).join('')}}\n`
}

const json = (settings: readonly Setting[], which: Which): string =>
  JSON.stringify(Object.fromEntries(settings.map(({ key, ...data }) => [key, data[which]])), null, 2) + '\n'
