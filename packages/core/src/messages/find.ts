import { nameWords } from '../carry/likeness'
import { looksOf, textOf, type FileLooks, type PartLook, type ValueLook } from '../checks/looks'
import type { WorkspaceFile } from '../checks/workspace'
import { languageOfPath, tellsTexts } from '../languages/languages-in'
import { SECONDS } from '../rules/units'
import { amountOf } from '../tree/compare'
import { authorsComment } from '../rules/comments'
import { isContainer, type Document, type Entry, type Node } from '../tree/nodes'
import { formatPointer } from '../tree/pointer'
import { MarkupReader, type Markup } from '../values/markup'
import { isTextForPlayers } from './is-text'
import type { Dress, Message } from './message'
import { Sections, type Section } from './sections'
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
  private readonly sections: Sections
  private readonly isTextFile: boolean

  constructor(
    private readonly file: WorkspaceFile,
    texts: Markup | null,
  ) {
    this.looks = looksOf(file)
    this.reader = texts && new MarkupReader(texts)
    this.sections = new Sections(file, this.looks)
    this.isTextFile = (file.document.traits.values === 'text' || languageOfPath(file.path) !== null) && tellsTexts(file.path)
  }

  find(): Message[] {
    const found: Message[] = []
    const numbered = new Set<ValueLook>()
    for (const part of this.looks.parts) {
      if (part.node.type !== 'list' && !isNumbered(this.file.document, part.node)) continue
      const items = this.sections.valuesIn(part.keys)
      const isTexts = items.length > 0 && items.length === part.node.entries.length && items.every(({ node }) => node.kind === 'text')
      if (!isTexts || !part.entry) continue
      const told = this.messageOf(part.keys, part.entry, items, part)
      found.push(...told)
      if (part.node.type === 'map' && told.length > 0) items.forEach((item) => numbered.add(item))
    }
    for (const value of this.looks.values)
      if (!value.isItem && value.node.kind === 'text' && !numbered.has(value))
        found.push(...this.messageOf(value.keys, value.entry, [value], null))
    return found.sort((a, b) => a.from - b.from)
  }

  private messageOf(keys: readonly string[], entry: Entry, values: readonly ValueLook[], list: PartLook | null): Message[] {
    const node: Node = entry.value
    const texts = values.map(({ text }) => text)
    const rule = list ? list.rule : values[0]!.rule
    const section = this.sections.at(keys.slice(0, -1))
    const comment = this.sections.saidOf(keys, entry)
    const isMarked = this.reader !== null && texts.some((text) => this.reader!.isMarked(text))
    const seen = isMarked ? texts.map((text) => this.seen(text)) : texts
    const look: SurfaceLook = {
      words: nameWords(entry.key),
      wordsAbove: section.wordsAbove,
      beside: section.names,
      comment,
      commentAbove: section.says,
    }
    if (!isTextForPlayers({ ...look, texts, seen, rule, isMarked, isTextFile: this.isTextFile })) return []
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
        keys: list?.node.type === 'map' ? list.node.entries.map(({ key }) => key) : null,
        turn: list ? turnOf(look) : null,
        surface,
        moment: momentOf(look, surface),
        when: wordIn(section, ['when', 'on', 'event']) || saidWhen(`${comment} ${section.says}`),
        delay: this.secondsIn(section, ['delay', 'after', 'wait', 'start after']),
        stays: this.secondsIn(section, ['stay', 'last', 'second', 'duration', 'for']),
        dress: this.dressIn(section),
        opens: section.opens,
        letters: rule?.maxLength ?? null,
        isShipped: list ? shipped !== null && shipped.join('\n') === texts.join('\n') : values[0]!.isShipped,
        shipped,
        says: comment || section.says,
      },
    ]
  }

  /** A text without what its codes say. */
  private seen(text: string): string {
    const lines = this.reader!.read(text).map((line) => line.filter(({ is }) => is !== 'unknown').map((run) => run.text))
    return lines.map((line) => line.join('')).join(' ')
  }

  private shippedItems({ shipped }: PartLook): string[] | null {
    const { factory } = this.file
    if (!factory || shipped === null || !isContainer(shipped)) return null
    return shipped.entries.flatMap(({ value }) => (value.type === 'scalar' ? [textOf(factory, value)] : []))
  }

  private dressIn(section: Section): Dress {
    const { values } = section
    const word = (...names: readonly string[]): string =>
      names.map((name) => values.get(name)).find((one) => one?.node.kind === 'text')?.text ?? ''
    const filled = ['filled', 'fill', 'progress'].map((name) => values.get(name)).find((one) => one?.node.kind === 'number')
    return {
      icon: word('icon', 'item', 'material'),
      colour: word('colour', 'color', 'bar colour', 'bar color'),
      style: word('style', 'overlay', 'shape'),
      filled: filled ? amountOf(this.file.document, filled.node) : null,
      comes: this.secondsIn(section, ['fade in']),
      goes: this.secondsIn(section, ['fade out']),
    }
  }

  private secondsIn({ values }: Section, names: readonly string[]): number | null {
    const found = names.map((name) => values.get(name)).find((value) => value?.rule?.means === 'duration')
    const amount = found ? amountOf(this.file.document, found.node) : null
    const unit = found?.rule?.unit === undefined ? undefined : SECONDS[found.rule.unit]
    return amount === null || unit === undefined ? null : amount * unit
  }
}

/** So many lines a text may have that stands in numbered keys. */
const MOST_KEYS = 99

/**
 * Whether all names in a section are one word with numbers that go up by one, as `1`, `2` or `line-1`, `line-2`. Where more than the
 * first has a comment of its own, each is something by itself.
 */
function isNumbered(document: Document, { entries }: PartLook['node']): boolean {
  if (entries.length < 2 || entries.length > MOST_KEYS) return false
  const told = entries.map(({ key }) => /^(.*?)(\d+)$/.exec(key))
  const [, word, first] = told[0] ?? []
  const goesUp = told.every((one, i) => one !== null && one[1] === word && Number(one[2]) === Number(first) + i)
  return goesUp && entries.slice(1).every((entry) => authorsComment(document, entry) === '')
}

/** A word that says when, beside a text. */
function wordIn({ values }: Section, names: readonly string[]): string {
  const found = names.map((name) => values.get(name)).find((value) => value?.node.kind === 'text')
  return found && /^[\w-]+$/.test(found.text) ? found.text : ''
}
