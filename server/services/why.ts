import { formatPointer, parsePointer, type FileFacts, type PermissionBook } from '@pasticcio/core'
import type { Context, Server } from './context'
import { ServiceError } from './errors'
import type { Installed } from './inventory'
import { bookOf } from './permissions'
import { workspaceFor, type PlacedFinding, type ServerWorkspace } from './workspace'

/** One question a helper would ask, answered. */
export interface WhyAnswer {
  readonly id: 'loaded' | 'on-server' | 'needs' | 'switched-on' | 'place' | 'permission' | 'right' | 'read' | 'console'
  readonly question: string
  /** `no` stands in the way, `look` may; `unknown` says what is not known. */
  readonly answer: 'yes' | 'no' | 'look' | 'unknown'
  readonly says: string
  /** Where that is to be seen, and mended. */
  readonly link: { readonly path: string; readonly line: number } | null
}

export interface WhyNot {
  readonly plugin: string
  /** Features of it that can be asked about, by JSON Pointer within a file. */
  readonly features: readonly { readonly id: string; readonly title: string }[]
  readonly groups: readonly string[]
  readonly answers: readonly WhyAnswer[]
}

/** What is asked about: a plugin, one entry of its settings, and a group of players. */
export interface Asked {
  readonly plugin: string
  /** `path#pointer` of an entry; empty for the plugin as a whole. */
  readonly feature: string
  /** A group; empty for anybody. */
  readonly group: string
}

/**
 * Goes through what a helper would ask where something does not work, always in the same order.
 * @throws ServiceError `not-found` for no such plugin, `bad-input` for no such feature
 */
export async function whyNot(context: Context, server: Server, { plugin: name, feature, group }: Asked): Promise<WhyNot> {
  const plugin = await server.inventory.require(name)
  const all = await workspaceFor(context, server)
  const features = featuresOf(plugin, all)
  if (feature !== '' && !features.some(({ id }) => id === feature))
    throw new ServiceError('bad-input', 400, `${name} has no ${feature}. Ask about one of those that are listed.`)
  const inquiry = new Inquiry(server, plugin, all, feature, group)
  return { plugin: name, features, groups: inquiry.groups, answers: inquiry.answers() }
}

function featuresOf(plugin: Installed, { files }: ServerWorkspace): { id: string; title: string }[] {
  return plugin.files.flatMap(({ path }) =>
    (files.get(path)?.facts?.names ?? []).flatMap(({ pointer, names }) =>
      names.map((name) => ({ id: `${path}#${pointer}${formatPointer([name])}`, title: name })),
    ),
  )
}

type Link = WhyAnswer['link']

class Inquiry {
  private readonly path: string
  private readonly pointer: string
  private readonly facts: readonly FileFacts[]
  private readonly findings: readonly PlacedFinding[]
  private readonly rights: PermissionBook | null
  readonly groups: readonly string[]

  constructor(
    private readonly server: Server,
    private readonly plugin: Installed,
    private readonly all: ServerWorkspace,
    feature: string,
    private readonly group: string,
  ) {
    const at = feature.indexOf('#')
    this.path = at < 0 ? '' : feature.slice(0, at)
    this.pointer = at < 0 ? '' : feature.slice(at + 1)
    const paths = new Set(plugin.files.map(({ path }) => path))
    this.facts = [...all.files].flatMap(([path, file]) => (paths.has(path) && file.facts ? [file.facts] : []))
    this.findings = all.findings.filter(({ file }) => paths.has(file) || file === plugin.packagePath)
    this.rights = bookOf(server, all)
    this.groups = this.rights?.permissions.groups.map(({ name }) => name) ?? []
  }

  answers(): WhyAnswer[] {
    return [
      this.loaded(),
      this.onServer(),
      this.needs(),
      this.switchedOn(),
      this.place(),
      this.permission(),
      this.right(),
      this.read(),
      this.console(),
    ]
  }

  /** Whether something of a file is of what is asked about. */
  private isAsked(path: string, pointer: string): boolean {
    return this.pointer === '' || (path === this.path && (pointer === this.pointer || pointer.startsWith(this.pointer + '/')))
  }

  private linkTo = (finding: PlacedFinding): Link => ({ path: finding.file, line: finding.line })

  private loaded(): WhyAnswer {
    const ask = { id: 'loaded', question: 'Is it loaded?', link: null } as const
    const run = this.server.runs.of(this.server, [this.plugin]).get(this.plugin.name)
    if (!run)
      return {
        ...ask,
        answer: 'unknown',
        says: this.server.console.state.status === 'running' ? 'not known: it is switched off' : 'not known: the server does not run',
      }
    if (run.state === 'loaded') return { ...ask, answer: 'yes', says: `${this.plugin.name} ${this.plugin.version} was loaded` }
    if (run.state === 'failed')
      return { ...ask, answer: 'no', says: run.reason, link: run.path ? { path: run.path, line: run.line ?? 1 } : null }
    return {
      ...ask,
      answer: run.state === 'waiting' ? 'unknown' : 'look',
      says: run.state === 'waiting' ? 'not known: the server still starts' : 'the console never spoke of it',
    }
  }

  private onServer(): WhyAnswer {
    const ask = { id: 'on-server', question: 'Is it switched on?', link: null } as const
    const hidden = this.all.findings.find(
      ({ code, message }) =>
        ['not-registered', 'plugins-off'].includes(code) && (code === 'plugins-off' || message.includes(this.plugin.name)),
    )
    if (hidden) return { ...ask, answer: 'no', says: hidden.message, link: this.linkTo(hidden) }
    return this.plugin.isOff
      ? { ...ask, answer: 'no', says: 'it lies on the server and is switched off' }
      : { ...ask, answer: 'yes', says: 'it is where the server looks for it' }
  }

  private needs(): WhyAnswer {
    const ask = { id: 'needs', question: 'Is what it needs there?', link: null } as const
    const missing = this.findings.find(
      ({ code, file }) => ['needs-plugin', 'conflicting-plugin'].includes(code) && file === this.plugin.packagePath,
    )
    if (missing) return { ...ask, answer: 'no', says: missing.message }
    const names = Object.keys(this.plugin.info.requires)
    return { ...ask, answer: 'yes', says: names.length > 0 ? `with ${names.join(', ')}` : 'it needs nothing' }
  }

  /** Switches named so that are off, above what is asked about or in it. */
  private switchedOn(): WhyAnswer {
    const ask = { id: 'switched-on', question: 'Do its settings switch it on?', link: null } as const
    const switches = this.facts
      .flatMap(({ path, switches: list }) => list.map((one) => ({ ...one, path })))
      .filter(({ path, pointer }) => this.isAbout(path, pointer))
    const off = switches.find(({ isOn }) => !isOn)
    const link = (one: (typeof switches)[number]): Link => ({ path: one.path, line: this.lineOf(one.path, one.from) })
    if (off) return { ...ask, answer: 'no', says: `${off.text} is off`, link: link(off) }
    const [first] = switches
    return first
      ? { ...ask, answer: 'yes', says: `${first.text} is on`, link: link(first) }
      : { ...ask, answer: 'yes', says: 'no setting switches it off' }
  }

  /** A switch counts for what stands beside and below it. */
  private isAbout(path: string, pointer: string): boolean {
    const parent = pointer.slice(0, pointer.lastIndexOf('/'))
    if (this.pointer === '') return parent === ''
    return path === this.path && (this.pointer === parent || this.pointer.startsWith(parent + '/'))
  }

  private place(): WhyAnswer {
    const ask = { id: 'place', question: 'In this place?', link: null } as const
    const name = parsePointer(this.pointer)?.at(-1) ?? ''
    const closed = this.findings.find(({ code, message }) => code === 'closed-place' && (name === '' || message.startsWith(`${name} `)))
    if (closed) return { ...ask, answer: 'no', says: closed.message, link: this.linkTo(closed) }
    return { ...ask, answer: 'yes', says: 'nothing closes where it is' }
  }

  private permission(): WhyAnswer {
    const ask = { id: 'permission', question: this.group === '' ? 'May players?' : `May ${this.group}?`, link: null } as const
    const nodes = this.facts.flatMap(({ path, nodes: list }) =>
      list.filter(({ isGiven, pointer }) => !isGiven && this.isAsked(path, pointer)).map((node) => ({ ...node, path })),
    )
    if (nodes.length === 0) return { ...ask, answer: 'yes', says: 'it asks for no permission' }
    if (this.groups.length === 0)
      return { ...ask, answer: 'unknown', says: 'not known: nothing on this server says which groups there are' }
    for (const node of nodes) {
      const holders = this.groups.filter((name) => this.rights!.may({ group: name }, node.text))
      const link = { path: node.path, line: this.lineOf(node.path, node.from) }
      if (holders.length === 0) return { ...ask, answer: 'no', says: `it asks for ${node.text}, which no group holds`, link }
      if (this.group !== '' && !holders.includes(this.group))
        return { ...ask, answer: 'no', says: `it asks for ${node.text}, which ${this.group} does not hold; ${holders.join(', ')} do`, link }
    }
    return {
      ...ask,
      answer: 'yes',
      says: `${nodes
        .map(({ text }) => text)
        .slice(0, 3)
        .join(', ')}, held by ${this.group || 'some groups'}`,
    }
  }

  private right(): WhyAnswer {
    const ask = { id: 'right', question: 'Are its settings right?', link: null } as const
    const wrong = this.findings.filter(
      ({ severity, file, line }) => severity !== 'note' && (this.pointer === '' || (file === this.path && this.isLineAsked(line))),
    )
    const [first] = [...wrong].sort((a, b) => (a.severity === b.severity ? 0 : a.severity === 'error' ? -1 : 1))
    if (!first) return { ...ask, answer: 'yes', says: 'nothing is found wrong with them' }
    const more = wrong.length > 1 ? ` And ${wrong.length - 1} more.` : ''
    return { ...ask, answer: first.severity === 'error' ? 'no' : 'look', says: first.message + more, link: this.linkTo(first) }
  }

  private isLineAsked(line: number): boolean {
    const file = this.all.files.get(this.path)
    const place = file?.facts?.entries.find(({ pointer }) => pointer === this.pointer)
    return place !== undefined && line >= this.lineOf(this.path, place.from) && line <= this.lineOf(this.path, place.to)
  }

  private lineOf(path: string, at: number): number {
    return (this.all.files.get(path)?.text ?? '').slice(0, at).split('\n').length
  }

  /** Whether the running plugin has taken what stands in the files. */
  private read(): WhyAnswer {
    const ask = { id: 'read', question: 'Are the settings read?', link: null } as const
    const staged = this.plugin.files.find(({ path }) => this.all.drafts.has(path))
    if (staged)
      return { ...ask, answer: 'look', says: 'changes of it are in the tray, and not applied yet', link: { path: staged.path, line: 1 } }
    const loaded = this.server.runs.loadedAt(this.plugin)
    if (loaded === null) return { ...ask, answer: 'unknown', says: 'not known: it was not heard when it read them last' }
    const newer = this.plugin.files.find(({ changed }) => Number(changed) > loaded + 1000)
    if (newer)
      return {
        ...ask,
        answer: 'no',
        says: `${newer.path.split('/').pop()!} was written after it read it last; reload it`,
        link: { path: newer.path, line: 1 },
      }
    return { ...ask, answer: 'yes', says: 'it read them after they were written last' }
  }

  private console(): WhyAnswer {
    const ask = { id: 'console', question: 'Is the console quiet?', link: null } as const
    if (this.server.console.state.status !== 'running') return { ...ask, answer: 'unknown', says: 'not known: the server does not run' }
    const names = [this.plugin.name, this.plugin.folder]
    const line = this.server.console
      .since(0)
      .findLast(({ level, text }) => /^(?:warn|error)/i.test(level) && names.some((name) => text.includes(name)))
    return line
      ? { ...ask, answer: 'look', says: `${line.time} ${line.text}` }
      : { ...ask, answer: 'yes', says: `no complaint names ${this.plugin.name}` }
  }
}
