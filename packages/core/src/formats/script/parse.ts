/*
 * Finds literal constants in a script: `const NAME = 'text'` at the top of the file, with objects and lists of literals.
 * The grammar is acorn's, a general JavaScript parser; nothing is run. All other statements are code.
 */
import {
  Parser,
  type Comment as AcornComment,
  type Expression,
  type ModuleDeclaration,
  type Options,
  type Program,
  type Property,
  type SpreadElement,
  type Statement,
  type VariableDeclaration,
} from 'acorn'
import { emptyScalar, type Comment, type Entry, type Finding, type MapNode, type Node, type ScalarNode, type Span } from '../../tree/nodes'
import { CommentStream } from '../comment-stream'
import { reckon } from '../lua/literals'
import { StatementTree } from '../statements'
import type { Parsed } from '../format'

const DEEPEST = 400

/** Reads a script. Bad input gives findings and the constants that could be read; it never throws. */
export function parseScript(text: string): Parsed {
  const reader = new ScriptReader(text)
  const root = reader.file()
  return { root, findings: reader.findings }
}

type Top = Statement | ModuleDeclaration

class ScriptReader {
  readonly findings: Finding[] = []
  private readonly comments: CommentStream
  private readonly tree: StatementTree

  constructor(private readonly text: string) {
    this.comments = new CommentStream(text)
    this.tree = new StatementTree(text, '.')
  }

  file(): Node {
    for (const statement of this.statements()) this.statement(statement)
    return this.tree.finish(this.comments.takeLead(this.text.length + 1))
  }

  /** The statements of the file; where it does not parse, those before the error and those after the next blank line. */
  private statements(): Top[] {
    const { text } = this
    const found: Top[] = []
    let from = text.charCodeAt(0) === 0xfeff ? 1 : 0
    for (let attempts = 0; from < text.length && attempts < 50; attempts++) {
      const read = this.attempt(from, text.length)
      if (!(read instanceof SyntaxError)) return [...found, ...read.body]
      const at = Math.min((read as SyntaxError & { pos: number }).pos ?? from, text.length)
      if (this.findings.length === 0)
        this.findings.push({
          code: 'syntax',
          severity: 'error',
          from: this.causeOf(at),
          to: Math.min(at + 1, text.length),
          message: `${plainWords(read.message)} The lines after it were read as far as they could be.`,
        })
      // the longest run of lines before the error that reads
      const cut = this.lastGoodLine(from, at)
      if (cut > from) {
        const before = this.attempt(from, cut)
        if (!(before instanceof SyntaxError)) found.push(...before.body)
      }
      const next = /\n(?=(?:export\s+)?(?:const|let|var|function|class)\s)/g
      next.lastIndex = at
      const resume = next.exec(text)
      if (!resume) return found
      from = resume.index + 1
    }
    return found
  }

  /** An error met at the start of a line belongs to the end of the one before. */
  private causeOf(at: number): number {
    const before = this.text.slice(0, at)
    const blanks = /\s*$/.exec(before)![0]
    return /[\r\n]/.test(blanks) ? at - blanks.length : at
  }

  private lastGoodLine(from: number, at: number): number {
    const starts = /\n(?=(?:export\s+)?(?:const|let|var|function|class|import)\s)/g
    let last = from
    starts.lastIndex = from
    for (let match = starts.exec(this.text); match && match.index < at; match = starts.exec(this.text)) last = match.index + 1
    return last
  }

  private attempt(from: number, to: number): Program | SyntaxError {
    const waiting: AcornComment[] = []
    const options = (sourceType: 'module' | 'script'): Options => ({
      ecmaVersion: 'latest',
      sourceType,
      allowHashBang: true,
      allowReturnOutsideFunction: true,
      allowAwaitOutsideFunction: true,
      onComment: waiting,
    })
    // offsets stay those of the file
    const text = ' '.repeat(from) + this.text.slice(from, to)
    for (const kind of ['module', 'script'] as const) {
      waiting.length = 0
      try {
        const program = Parser.parse(text, options(kind))
        for (const comment of waiting) this.comments.add(comment.start, comment.end)
        return program
      } catch (error) {
        if (kind === 'script')
          return error instanceof SyntaxError
            ? error
            : new SyntaxError(error instanceof RangeError ? 'It is nested too deep to be read.' : String(error))
      }
    }
    return new SyntaxError('It could not be read.')
  }

  private statement(node: Top): void {
    const declaration = node.type === 'ExportNamedDeclaration' && node.declaration ? node.declaration : node
    const lead = this.comments.takeLead(node.start)
    if (declaration.type === 'VariableDeclaration' && this.constants(node, declaration, lead)) return
    this.comments.drop(node.end)
    if ((declaration.type === 'FunctionDeclaration' || declaration.type === 'ClassDeclaration') && declaration.id)
      return this.tree.assign([declaration.id.name], [{ from: declaration.id.start, to: declaration.id.end }], {
        from: node.start,
        to: node.end,
        value: this.code(node),
        lead,
        trail: this.comments.takeTrail(node.end),
      })
    this.tree.code(node.start, node.end, lead, this.comments.takeTrail(node.end))
  }

  /** `const A = 1;` is a setting; several names in one declaration are code, since none of them is a line of its own. */
  private constants(node: Top, declaration: VariableDeclaration, lead: readonly Comment[]): boolean {
    const { declarations } = declaration
    if (declarations.length !== 1) return false
    const [only] = declarations
    if (only!.id.type !== 'Identifier' || !only!.init) return false
    const value = this.value(only!.init, 0)
    const to = this.text[node.end - 1] === ';' ? node.end - 1 : node.end
    this.comments.drop(to)
    const names: Span[] = [{ from: only!.id.start, to: only!.id.end }]
    this.tree.assign([only!.id.name], names, { from: node.start, to, value, lead, trail: this.comments.takeTrail(node.end) })
    return true
  }

  private code(node: { start: number; end: number }): ScalarNode {
    return { ...emptyScalar(node.start), to: node.end, kind: 'code', style: 'plain', value: this.text.slice(node.start, node.end) }
  }

  private scalar(
    node: { start: number; end: number },
    kind: ScalarNode['kind'],
    value: ScalarNode['value'],
    style: ScalarNode['style'] = 'plain',
  ): ScalarNode {
    return { ...emptyScalar(node.start), to: node.end, kind, style, value }
  }

  private value(node: Expression, depth: number): Node {
    if (depth > DEEPEST) return this.code(node)
    switch (node.type) {
      case 'Literal':
        if (typeof node.value === 'string')
          return this.scalar(node, 'text', node.value, this.text[node.start] === '"' ? 'double' : 'single')
        if (typeof node.value === 'number') return this.scalar(node, 'number', node.value)
        if (typeof node.value === 'boolean') return this.scalar(node, 'bool', node.value)
        return node.value === null && node.raw === 'null' ? this.scalar(node, 'null', null) : this.code(node)
      case 'TemplateLiteral':
        return node.expressions.length === 0 ? this.scalar(node, 'text', node.quasis[0]?.value.cooked ?? '', 'long') : this.code(node)
      case 'UnaryExpression':
      case 'BinaryExpression': {
        const amount = amountOf(node, 0)
        return amount === null ? this.code(node) : this.scalar(node, 'number', amount)
      }
      case 'ArrayExpression':
        return this.list(node, depth)
      case 'ObjectExpression':
        return this.map(node, depth)
      default:
        return this.code(node)
    }
  }

  private container(node: { start: number; end: number }, entries: Entry[]): Omit<MapNode, 'type'> {
    return {
      flow: true,
      indent: -1,
      entries,
      tail: this.comments.takeLead(node.end),
      from: node.start,
      to: node.end,
      outer: node.start,
      anchor: null,
      tag: null,
    }
  }

  private list(node: Extract<Expression, { type: 'ArrayExpression' }>, depth: number): Node {
    if (node.elements.some((item) => item === null || item.type === 'SpreadElement')) return this.code(node)
    const entries = (node.elements as Expression[]).map((item, i) => {
      const lead = this.comments.takeLead(item.start)
      return this.separated(
        {
          key: String(i),
          keyFrom: item.start,
          keyTo: item.start,
          value: this.value(item, depth + 1),
          from: item.start,
          to: item.end,
          lead,
          trail: null,
          comma: -1,
        },
        node.elements[i + 1]?.start ?? node.end,
      )
    })
    return { type: 'list', documents: false, ...this.container(node, entries) }
  }

  private map(node: Extract<Expression, { type: 'ObjectExpression' }>, depth: number): Node {
    const entries = node.properties.map((item, i) => {
      const lead = this.comments.takeLead(item.start)
      return this.separated(this.property(item, i, lead, depth), node.properties[i + 1]?.start ?? node.end)
    })
    return { type: 'map', ...this.container(node, entries) }
  }

  private property(item: Property | SpreadElement, index: number, lead: readonly Comment[], depth: number): Entry {
    const base = { keyFrom: item.start, keyTo: item.start, from: item.start, to: item.end, lead, trail: null, comma: -1 }
    if (
      item.type === 'SpreadElement' ||
      (item.computed && item.key.type !== 'Literal') ||
      item.method ||
      item.kind !== 'init' ||
      item.shorthand
    ) {
      const source = this.text.slice(item.start, Math.min(item.end, item.start + 60)).replace(/\s+/g, ' ')
      const named = item.type === 'Property' && !item.computed && item.key.type === 'Identifier' ? item.key.name : `${source} (${index})`
      return { key: named, value: this.code(item), ...base, names: [] }
    }
    const key =
      item.key.type === 'Identifier'
        ? item.key.name
        : item.key.type === 'Literal'
          ? String(item.key.value)
          : this.text.slice(item.key.start, item.key.end)
    return {
      key,
      ...base,
      keyFrom: item.computed ? item.start : item.key.start,
      keyTo: item.computed ? this.text.indexOf(']', item.key.end) + 1 : item.key.end,
      value: this.value(item.value, depth + 1),
    }
  }

  /** Finds the comma behind an entry and the comment on its line. */
  private separated(entry: Entry, before: number): Entry {
    this.comments.drop(entry.to)
    const early = this.comments.takeTrail(entry.to)
    for (let at = early ? early.to : entry.to; at < before; at++) {
      const char = this.text[at]
      if (char === ',') {
        entry.comma = at
        break
      }
      if (!/\s/.test(char!)) break
    }
    entry.trail = early ?? this.comments.takeTrail(Math.max(entry.to, entry.comma + 1))
    return entry
  }
}

/** The amount constant arithmetic comes to; null for anything else. */
function amountOf(node: Expression, depth: number): number | null {
  if (depth > DEEPEST) return null
  if (node.type === 'Literal') return typeof node.value === 'number' ? node.value : null
  if (node.type === 'UnaryExpression') {
    const inner = amountOf(node.argument, depth + 1)
    return inner === null ? null : node.operator === '-' ? -inner : node.operator === '+' ? inner : null
  }
  if (node.type !== 'BinaryExpression' || node.left.type === 'PrivateIdentifier') return null
  const left = amountOf(node.left, depth + 1)
  const right = left === null ? null : amountOf(node.right, depth + 1)
  if (left === null || right === null) return null
  if (node.operator === '%') return left % right
  return node.operator === '**' ? left ** right : /^[-+*/]$/.test(node.operator) ? reckon(node.operator, left, right) : null
}

/** A parser's message as a sentence, without the place, which the finding has. */
function plainWords(message: string): string {
  const bare = message.replace(/\s*\(\d+:\d+\)$/, '')
  return bare === 'Unexpected token'
    ? 'Something stands here that does not fit: often a comma, bracket or quote is missing just before it.'
    : `${bare}.`
}
