import { nameWords } from '../carry/likeness'
import { looksOf, textOf, type FileLooks, type PartLook, type ValueLook } from '../checks/looks'
import type { WorkspaceFile } from '../checks/workspace'
import { saidAbout } from '../rules/comments'
import { SECONDS } from '../rules/units'
import { amountOf } from '../tree/compare'
import { isContainer, isNameless, type Node } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { MarkupReader, type Markup } from '../values/markup'
import { isTextForPlayers } from './is-text'
import type { Message } from './message'
import { momentOf, surfaceOf, turnOf, type SurfaceLook } from './surface'

/** All texts of a settings file that players read, in its order. */
export function messagesIn(file: WorkspaceFile, texts: Markup | null): Message[] {
  return new Finder(file, texts).find()
}

/** What a text waits for, as in “when the flood begins”. */
const saidWhen = (comment: string): string =>
  /\bwhen the (\w+) (?:begins|starts|comes|ends|opens)\b/i.exec(comment)?.[1]?.toLowerCase() ?? ''

class Finder {
  private readonly looks: FileLooks
  private readonly reader: MarkupReader | null
  private readonly parts: ReadonlyMap<string, PartLook>
  /** Values by the section they are in. */
  private readonly inside = new Map<string, ValueLook[]>()
  private readonly isTextFile: boolean

  constructor(
    private readonly file: WorkspaceFile,
    texts: Markup | null,
  ) {
    this.looks = looksOf(file)
    this.reader = texts && new MarkupReader(texts)
    this.parts = new Map(this.looks.parts.map((part) => [formatPointer(part.keys), part]))
    for (const value of this.looks.values) {
      const at = formatPointer(value.keys.slice(0, -1))
      const there = this.inside.get(at)
      if (there) there.push(value)
      else this.inside.set(at, [value])
    }
    const name = file.path.split('/').pop()!.toLowerCase()
    this.isTextFile = file.document.traits.values === 'text' && /text|message|lang|locale|string|translation|word/.test(name)
  }

  find(): Message[] {
    const found: Message[] = []
    for (const value of this.looks.values)
      if (!value.isItem && value.node.kind === 'text') found.push(...this.messageOf(value.keys, value.node, [value], null))
    for (const part of this.looks.parts) {
      const items = part.node.type === 'list' ? (this.inside.get(formatPointer(part.keys)) ?? []) : []
      const isTexts = items.length > 0 && items.length === part.node.entries.length && items.every(({ node }) => node.kind === 'text')
      if (isTexts && part.keys.length > 0) found.push(...this.messageOf(part.keys, part.node, items, part))
    }
    return found.sort((a, b) => a.from - b.from)
  }

  private messageOf(keys: readonly string[], node: Node, values: readonly ValueLook[], list: PartLook | null): Message[] {
    const texts = values.map(({ text }) => text)
    const rule = list ? list.rule : values[0]!.rule
    const words = nameWords(keys.at(-1)!)
    const wordsAbove = keys.slice(0, -1).flatMap(nameWords)
    const beside = new Set(this.besideOf(keys).map((name) => nameWords(name).join(' ')))
    const comment = this.saidOf(keys)
    const isMarked = this.reader !== null && texts.some((text) => this.reader!.isMarked(text))
    const seen = isMarked ? texts.map((text) => this.seen(text)) : texts
    if (!isTextForPlayers({ texts, seen, words, wordsAbove, beside, comment, rule, isMarked, isTextFile: this.isTextFile })) return []
    const look: SurfaceLook = { words, wordsAbove, beside, comment, commentAbove: this.saidOf(keys.slice(0, -1)) }
    const surface = surfaceOf(look)
    const shipped = list ? this.shippedItems(list) : values[0]!.shipped === null ? null : [values[0]!.shipped]
    return [
      {
        pointer: formatPointer(keys),
        from: node.from,
        to: node.to,
        texts,
        places: values.map(({ node: { from, to } }) => ({ from, to })),
        isList: list !== null,
        turn: list ? turnOf(look) : null,
        surface,
        moment: momentOf(look, surface),
        when: this.wordBeside(keys, ['when', 'on', 'event']) || saidWhen(`${comment} ${look.commentAbove}`),
        delay: this.secondsBeside(keys, ['delay', 'after', 'wait', 'start after']),
        stays: this.secondsBeside(keys, ['stay', 'last', 'second', 'duration', 'for']),
        letters: rule?.maxLength ?? null,
        isShipped: list ? shipped !== null && shipped.join('\n') === texts.join('\n') : values[0]!.isShipped,
        shipped,
        says: comment,
      },
    ]
  }

  /** A text without what its codes say. */
  private seen(text: string): string {
    const lines = this.reader!.read(text).map((line) => line.filter(({ is }) => is !== 'unknown').map((run) => run.text))
    return lines.map((line) => line.join('')).join(' ')
  }

  private besideOf(keys: readonly string[]): string[] {
    const section = this.parts.get(formatPointer(keys.slice(0, -1)))?.node
    return section?.type === 'map' ? section.entries.filter((entry) => !isNameless(entry)).map(({ key }) => key) : []
  }

  /** What the author says, as it stands here or in the factory copy. */
  private saidOf(keys: readonly string[]): string {
    if (keys.length === 0) return ''
    const { document, factory } = this.file
    return saidAbout(document, keys) || (factory ? saidAbout(factory, keys) : '')
  }

  private shippedItems({ shipped }: PartLook): string[] | null {
    const { factory } = this.file
    if (!factory || shipped === null || !isContainer(shipped)) return null
    return shipped.entries.flatMap(({ value }) => (value.type === 'scalar' ? [textOf(factory, value)] : []))
  }

  private wordBeside(keys: readonly string[], names: readonly string[]): string {
    const found = this.valuesBeside(keys).find(({ entry, node }) => names.includes(entry.key.toLowerCase()) && node.kind === 'text')
    return found && /^[\w-]+$/.test(found.text) ? found.text : ''
  }

  private secondsBeside(keys: readonly string[], names: readonly string[]): number | null {
    const isCalled = (name: string): boolean => names.includes(nameWords(name).join(' '))
    const found = this.valuesBeside(keys).find(({ entry, rule }) => isCalled(entry.key) && rule?.means === 'duration')
    const amount = found && amountOf(this.file.document, found.node)
    const unit = found?.rule?.unit === undefined ? undefined : SECONDS[found.rule.unit as keyof typeof SECONDS]
    return amount === null || amount === undefined || unit === undefined ? null : amount * unit
  }

  private valuesBeside(keys: readonly string[]): readonly ValueLook[] {
    return this.inside.get(formatPointer(keys.slice(0, -1))) ?? []
  }
}
