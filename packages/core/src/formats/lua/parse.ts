/*
 * A reader of Lua settings files: assignments of values are settings, everything else is code, which is kept and shown
 * and never run. Grammar: chapter 9 of the reference manuals 5.1 to 5.4. One class, since all productions share the cursor.
 */
import { withoutConsequences } from '../recover'
import { luaRepairs } from './recover'
import {
  NO_COMMENTS,
  emptyScalar,
  type Comment,
  type Entry,
  type Finding,
  type FindingCode,
  type ListNode,
  type Node,
  type ScalarKind,
  type ScalarNode,
  type ScalarStyle,
  type Span,
} from '../../tree/nodes'
import { LineIndex, lineStart } from '../../text/lines'
import { CommentStream } from '../comment-stream'
import { Seen } from '../seen'
import { StatementTree } from '../statements'
import { LuaLexer, T } from './lexer'
import { longText, luaNumber, reckon, unescapeLua } from './literals'
import type { Parsed } from '../format'
import type { Reading } from '../reading'

const DEEPEST = 180

/** Reads Lua. Bad input gives findings and what could be read; it never throws, and nothing of it is run. */
export function parseLua(text: string, reading: Reading): Parsed {
  const document = readOnce(text, reading)
  return { ...document, findings: withoutConsequences(text, document.findings, (other) => readOnce(other, reading).findings, luaRepairs) }
}

function readOnce(text: string, reading: Reading): Parsed {
  const read = (byIndent: boolean): Parsed => {
    const parser = new LuaParser(text, byIndent, reading.lists ?? null)
    const root = parser.file()
    return { root, findings: parser.findings }
  }
  const plain = read(false)
  if (
    plain.findings.length < 2 &&
    !plain.findings.some(
      (finding) => finding.code === 'unclosed-bracket' || finding.code === 'unclosed-block' || finding.code === 'text-after-value',
    )
  )
    return plain
  // something is left open: only then does indentation, which intact files are free in, tell where
  const indented = read(true)
  return indented.findings.length <= plain.findings.length ? indented : plain
}

/** Binary operators and how tightly they bind (reference manual, chapter 3.4.8); even numbers bind to the right. */
const BINDS: Readonly<Record<string, number>> = {
  or: 1,
  and: 3,
  '<': 5,
  '>': 5,
  '<=': 5,
  '>=': 5,
  '~=': 5,
  '==': 5,
  '|': 7,
  '~': 9,
  '&': 11,
  '<<': 13,
  '>>': 13,
  '..': 14,
  '+': 17,
  '-': 17,
  '*': 19,
  '/': 19,
  '//': 19,
  '%': 19,
  '^': 22,
}
const UNARY = 21

interface Target {
  readonly keys: readonly string[]
  readonly names: readonly Span[]
}

class LuaParser {
  readonly findings: Finding[] = []
  private readonly comments: CommentStream
  private readonly lex: LuaLexer
  private readonly tree: StatementTree
  private depth = 0
  private inTable = 0
  private stopped = false
  private lines: LineIndex | null = null
  /** The path of names that were just read, while it is still one that can be assigned to. */
  private target: Target | null = null

  constructor(
    private readonly text: string,
    private readonly byIndent: boolean,
    private readonly lists: ReadonlySet<string> | null,
  ) {
    this.comments = new CommentStream(text)
    this.lex = new LuaLexer(text, this.comments)
    this.tree = new StatementTree(text, '.')
  }

  file(): Node {
    this.lex.advance()
    while (!this.lex.at(T.End) && !this.stopped) this.statement(true)
    const root = this.tree.finish(this.comments.takeLead(this.text.length + 1))
    if (this.lex.openComment >= 0)
      this.report(
        'unclosed-bracket',
        this.lex.openComment,
        this.lex.openComment + 4,
        'The comment opened here is never closed. Close it with ]].',
      )
    if (this.lists) this.applyLists(root, '')
    return root
  }

  /** Tables that are empty here but lists elsewhere, or hold one value named 1, are read as lists. */
  private applyLists(node: Node, path: string): void {
    if (node.type === 'scalar' || node.type === 'alias') return
    for (const entry of node.entries) {
      const below = `${path}/${node.type === 'list' ? '*' : entry.key}`
      const value = entry.value
      if (value.type === 'map' && value.flow && value.entries.length === 0 && this.lists!.has(below))
        entry.value = { ...value, type: 'list', documents: false }
      else this.applyLists(value, below)
    }
  }

  private report(
    code: FindingCode,
    from: number,
    to: number,
    message: string,
    fix?: Finding['fix'],
    severity: Finding['severity'] = 'error',
  ): void {
    if (this.findings.length < 500)
      this.findings.push(fix ? { code, severity, from, to, message, fix } : { code, severity, from, to, message })
  }

  private lineOf(offset: number): number {
    this.lines ??= new LineIndex(this.text)
    return this.lines.position(offset).line
  }

  private indentAt(offset: number): number {
    const start = lineStart(this.text, offset)
    let at = start
    while (this.text.charCodeAt(at) === 32 || this.text.charCodeAt(at) === 9) at++
    return at - start
  }

  private firstOnLine(offset: number): boolean {
    return lineStart(this.text, offset) + this.indentAt(offset) === offset
  }

  private enter(): boolean {
    if (this.depth >= DEEPEST) {
      if (!this.stopped)
        this.report(
          'too-deep',
          this.lex.from,
          this.lex.from + 1,
          `Tables or expressions are nested more than ${DEEPEST} deep here; the rest was not read.`,
        )
      this.stopped = true
      this.lex.cut(this.text.length)
      this.lex.advance()
      return false
    }
    this.depth++
    return true
  }

  // ---- statements ---------------------------------------------------------------------------------------------

  /** Reads one statement; at the top of the file it becomes an entry. */
  private statement(top: boolean): void {
    const { lex } = this
    const from = lex.from
    const lead = top ? this.comments.takeLead(from) : NO_COMMENTS
    if (!this.enter()) return
    if (lex.is(';')) lex.advance()
    else if (lex.at(T.Keyword)) this.keywordStatement(from, lead, top)
    else if (lex.at(T.Name) || lex.is('(')) this.expressionStatement(from, lead, top)
    else if (lex.is('::')) this.label(from, lead, top)
    else this.stray()
    this.depth--
    if (lex.from === from && !lex.at(T.End)) lex.advance()
  }

  private label(from: number, lead: readonly Comment[], top: boolean): void {
    const { lex } = this
    lex.advance()
    lex.advance()
    if (lex.is('::')) lex.advance()
    this.code(from, lead, top)
  }

  private stray(): void {
    const { lex } = this
    const { from, to } = lex
    if (lex.is('}') || lex.is(')') || lex.is(']'))
      this.report(
        'text-after-value',
        from,
        to,
        `This “${lex.value}” closes nothing: what it belongs to was closed before. Remove it, or the one that closes too early.`,
      )
    else
      this.report(
        'syntax',
        from,
        to,
        `“${lex.value.slice(0, 40)}” cannot start a line of a Lua file. Settings are written as name = value.`,
      )
    lex.advance()
    this.resync(this.indentAt(from))
  }

  /** After an error: goes on at the next line that starts like a statement and is not indented more. */
  private resync(indent: number): void {
    const { lex } = this
    while (!lex.at(T.End)) {
      if (lex.newLine && this.indentAt(lex.from) <= indent && (lex.at(T.Name) || (lex.at(T.Keyword) && !lex.is('end') && !lex.is('then'))))
        return
      lex.advance()
    }
  }

  private keywordStatement(from: number, lead: readonly Comment[], top: boolean): void {
    const { lex } = this
    switch (lex.value) {
      case 'local':
        return this.local(from, lead, top)
      case 'return':
        return this.returns(from, lead, top)
      case 'function':
        return this.functionStatement(from, lead, top)
      case 'if':
      case 'for':
      case 'while':
      case 'do':
      case 'repeat':
        this.compound(lex.value)
        return this.code(from, lead, top)
      case 'goto':
        lex.advance()
        lex.advance()
        return this.code(from, lead, top)
      case 'break':
        lex.advance()
        return this.code(from, lead, top)
      default:
        this.stray()
    }
  }

  private local(from: number, lead: readonly Comment[], top: boolean): void {
    const { lex } = this
    lex.advance()
    if (lex.is('function')) return this.functionStatement(from, lead, top)
    const names: { key: string; span: Span }[] = []
    while (lex.at(T.Name)) {
      names.push({ key: lex.value, span: { from: lex.from, to: lex.to } })
      lex.advance()
      if (lex.is('<')) {
        lex.advance()
        lex.advance()
        if (lex.is('>')) lex.advance()
      }
      if (!lex.is(',')) break
      lex.advance()
    }
    if (names.length === 0) {
      this.report('syntax', lex.from, lex.to, 'After “local” a name is missing.')
      return this.resync(this.indentAt(from))
    }
    const last = names[names.length - 1]!
    const target = names.length === 1 ? { keys: [last.key], names: [last.span] } : null
    if (lex.is('=')) return this.assign(from, lead, target, top)
    if (this.missingEquals(last.span, last.key)) return this.assign(from, lead, target, top)
    this.code(from, lead, top)
  }

  private expressionStatement(from: number, lead: readonly Comment[], top: boolean): void {
    const { lex } = this
    const expression = this.suffixed(true)
    let { target } = this
    let count = 1
    while (lex.is(',')) {
      lex.advance()
      this.suffixed(true)
      count++
    }
    if (count > 1) target = null
    if (lex.is('=')) return this.assign(from, lead, target, top)
    // f(x), f'x', f[[x]] and f{x} are statements; anything else that only names a value is not
    const call = expression.type === 'list' || /["')\]}]$/.test(this.text[expression.to - 1] ?? '')
    const last = target?.names[target.names.length - 1]
    if (target && last && this.missingEquals(last, target.keys[target.keys.length - 1]!)) return this.assign(from, lead, target, top)
    if (!call) {
      this.report(
        'missing-equals',
        expression.from,
        expression.to,
        `After “${this.text.slice(expression.from, expression.to).slice(0, 60)}” an equals sign and a value are missing.`,
      )
      if (!lex.newLine) this.resync(this.indentAt(from))
    }
    this.code(from, lead, top)
  }

  /** A colon, or nothing at all, where the equals sign should be: says so, and leaves the cursor where `=` would be. */
  private missingEquals(name: Span, key: string): boolean {
    const { lex } = this
    if (lex.newLine || lex.at(T.End)) return false
    if (lex.is(':')) {
      this.report('missing-equals', lex.from, lex.to, `A colon stands where Lua takes an equals sign, after “${key}”.`, {
        label: 'Write an equals sign',
        edits: [{ from: lex.from, to: lex.to, insert: lex.from === name.to ? ' =' : '=' }],
      })
      return true
    }
    const value = lex.at(T.Number) || lex.at(T.Name) || lex.is('true') || lex.is('false') || lex.is('nil')
    if (!value) return false
    this.report('missing-equals', name.to, name.to, `Between “${key}” and its value an equals sign is missing.`, {
      label: 'Insert the equals sign',
      edits: [{ from: name.to, to: name.to, insert: ' =' }],
    })
    lex.cut(lex.before)
    return true
  }

  /** The right side of an assignment; the cursor is on what stands for its equals sign. */
  private assign(from: number, lead: readonly Comment[], target: Target | null, top: boolean): void {
    const { lex } = this
    const equals = lex.to
    lex.advance()
    if (lex.is('=')) {
      this.report('syntax', lex.from, lex.to, 'Two equals signs compare; one assigns. Remove the second.', {
        label: 'Remove it',
        edits: [{ from: lex.from, to: lex.to, insert: '' }],
      })
      lex.advance()
    }
    if (
      lex.at(T.End) ||
      (lex.newLine && lex.at(T.Keyword) && !['function', 'nil', 'true', 'false', 'not'].includes(lex.value)) ||
      lex.is('}') ||
      lex.is(',')
    ) {
      this.report('syntax', from, equals, `After the equals sign a value is missing.`)
      if (lex.is(',')) lex.advance()
      return this.code(from, lead, top)
    }
    const value = this.expression(0)
    let single = true
    while (lex.is(',') && !this.stopped) {
      const comma = lex.from
      lex.advance()
      if (target && (lex.newLine || lex.at(T.End))) {
        this.report('extra-comma', comma, comma + 1, 'A comma stands behind this value, but outside of a table none may. Remove it.', {
          label: 'Remove the comma',
          edits: [{ from: comma, to: comma + 1, insert: '' }],
        })
        break
      }
      this.expression(0)
      single = false
    }
    const end = single ? value.to : lex.before
    if (lex.is(';')) lex.advance()
    if (!top) return
    if (!target || !single) return this.code(from, lead, top)
    this.comments.drop(end)
    this.tree.assign(target.keys, target.names, { from, to: end, value: value, lead, trail: this.comments.takeTrail(end) })
  }

  private code(from: number, lead: readonly Comment[], top: boolean): void {
    if (!top) return
    const to = Math.max(from, this.lex.before)
    this.comments.drop(to)
    this.tree.code(from, to, lead, this.comments.takeTrail(to))
  }

  private returns(from: number, lead: readonly Comment[], top: boolean): void {
    const { lex } = this
    lex.advance()
    const done = lex.at(T.End) || lex.is(';') || (lex.at(T.Keyword) && ['end', 'else', 'elseif', 'until'].includes(lex.value))
    const value = done ? null : this.expression(0)
    let single = true
    while (value && lex.is(',') && !this.stopped) {
      lex.advance()
      this.expression(0)
      single = false
    }
    if (lex.is(';')) lex.advance()
    if (!top) return
    if (value && single && value.type !== 'alias' && value.type !== 'scalar' && value.tag === null && !this.tree.returned)
      this.tree.returns(value, lead)
    else this.code(from, lead, top)
  }

  private functionStatement(from: number, lead: readonly Comment[], top: boolean): void {
    const { lex } = this
    const opened = lex.from
    lex.advance()
    const keys: string[] = []
    const names: Span[] = []
    while (lex.at(T.Name)) {
      keys.push(lex.value)
      names.push({ from: lex.from, to: lex.to })
      lex.advance()
      if (!lex.is('.') && !lex.is(':')) break
      lex.advance()
    }
    this.functionBody(opened)
    if (!top) return
    const to = lex.before
    this.comments.drop(to)
    if (keys.length === 0) return this.code(from, lead, top)
    this.tree.assign(keys, names, {
      from,
      to,
      value: this.scalar('code', 'plain', null, from, to),
      lead,
      trail: this.comments.takeTrail(to),
    })
  }

  private functionBody(opened: number): void {
    const { lex } = this
    if (lex.is('(')) {
      while (!lex.at(T.End) && !lex.is(')')) lex.advance()
      lex.advance()
    }
    this.block(opened, 'function')
  }

  /** if, for, while, do and repeat, with all their parts. */
  private compound(word: string): void {
    const { lex } = this
    const opened = lex.from
    lex.advance()
    if (word === 'repeat') {
      this.block(opened, word)
      this.expression(0)
      return
    }
    if (word === 'if' || word === 'while') this.expression(0)
    else if (word === 'for') this.forHead()
    if (word !== 'do') {
      const opener = word === 'if' ? 'then' : 'do'
      if (lex.is(opener)) lex.advance()
      else
        this.report('syntax', opened, lex.before, `This “${word}” lacks its “${opener}”.`, {
          label: `Insert “${opener}”`,
          edits: [{ from: lex.before, to: lex.before, insert: ` ${opener}` }],
        })
    }
    this.block(opened, word)
  }

  private forHead(): void {
    const { lex } = this
    while (lex.at(T.Name) || lex.is(',')) lex.advance()
    if (lex.is('=') || lex.is('in')) {
      lex.advance()
      this.expression(0)
      while (lex.is(',') && !this.stopped) {
        lex.advance()
        this.expression(0)
      }
    }
  }

  /** Statements up to the word that ends the block; parts of an `if` follow one another. */
  private block(opened: number, word: string): void {
    const { lex } = this
    if (!this.enter()) return
    const outside = this.inTable
    this.inTable = 0
    const closer = word === 'repeat' ? 'until' : 'end'
    const indent = this.indentAt(opened)
    for (;;) {
      if (this.stopped || lex.at(T.End)) break
      if (this.byIndent && lex.is(closer) && this.firstOnLine(lex.from) && this.indentAt(lex.from) < indent) break
      if (lex.is(closer)) {
        lex.advance()
        this.inTable = outside
        this.depth--
        return
      }
      if (word === 'if' && lex.is('elseif')) {
        lex.advance()
        this.expression(0)
        if (lex.is('then')) lex.advance()
      } else if (word === 'if' && lex.is('else')) lex.advance()
      else this.statement(false)
    }
    this.inTable = outside
    this.depth--
    if (!this.stopped)
      this.report('unclosed-block', opened, opened + word.length, `The “${word}” opened here is never closed. Close it with “${closer}”.`)
  }

  // ---- expressions --------------------------------------------------------------------------------------------

  private scalar(kind: ScalarKind, style: ScalarStyle, value: ScalarNode['value'], from: number, to: number): ScalarNode {
    return {
      type: 'scalar',
      from,
      to,
      outer: from,
      anchor: null,
      tag: null,
      kind,
      style,
      value: kind === 'code' ? this.text.slice(from, to) : value,
    }
  }

  private expression(least: number): Node {
    const { lex } = this
    if (!this.enter()) return emptyScalar(this.text.length)
    let left = this.unary()
    for (;;) {
      if (this.stopped) break
      const operator = lex.at(T.Op) || lex.at(T.Keyword) ? lex.value : ''
      const binds = Object.hasOwn(BINDS, operator) ? BINDS[operator]! : 0
      if (binds <= least) break
      lex.advance()
      const right = this.expression(binds % 2 === 0 ? binds - 1 : binds)
      left = this.combine(operator, left, right)
    }
    this.depth--
    return left
  }

  private combine(operator: string, left: Node, right: Node): Node {
    const to = Math.max(left.outer, right.to)
    if (left.type === 'scalar' && right.type === 'scalar' && left.kind === 'number' && right.kind === 'number') {
      const amount = reckon(operator, left.value as number, right.value as number)
      if (amount !== null) return this.scalar('number', 'plain', amount, left.from, to)
    }
    return this.scalar('code', 'plain', null, left.outer, to)
  }

  private unary(): Node {
    const { lex } = this
    const from = lex.from
    if (!(lex.is('-') || lex.is('#') || lex.is('~') || lex.is('not'))) return this.simple()
    const minus = lex.is('-')
    lex.advance()
    const inner = this.expression(UNARY)
    if (minus && inner.type === 'scalar' && inner.kind === 'number')
      return this.scalar('number', 'plain', -(inner.value as number), from, inner.to)
    return this.scalar('code', 'plain', null, from, inner.to)
  }

  private simple(): Node {
    const { lex } = this
    const { from, to } = lex
    switch (lex.type) {
      case T.Number: {
        const amount = luaNumber(lex.value)
        if (Number.isNaN(amount))
          this.report('syntax', from, to, `“${lex.value.slice(0, 40)}” is not a number. Put it in quotes if it is meant as text.`, {
            label: 'Put it in quotes',
            edits: [{ from, to, insert: `'${lex.value}'` }],
          })
        lex.advance()
        return Number.isNaN(amount)
          ? this.scalar('text', 'plain', this.text.slice(from, to), from, to)
          : this.scalar('number', 'plain', amount, from, to)
      }
      case T.String:
        return this.string()
      case T.Long:
        if (lex.unclosed >= 0) this.report('unclosed-quote', from, from + 2, 'The long text opened here is never closed. Close it with ]].')
        lex.advance()
        return this.scalar('text', 'long', longText(this.text.slice(from, to)), from, to)
      case T.Keyword:
        return this.keywordValue()
      case T.Name:
        return this.suffixed(false)
    }
    if (lex.is('{')) return this.table()
    if (lex.is('(')) return this.suffixed(false)
    if (lex.is('...')) {
      lex.advance()
      return this.scalar('code', 'plain', null, from, to)
    }
    if (lex.at(T.Bad) && /[\u2018-\u201f\u00ab\u00bb]/.test(this.text[from]!)) return this.curly()
    return this.noValue()
  }

  private noValue(): Node {
    const { lex } = this
    const { from, to } = lex
    this.report(
      'syntax',
      from,
      to,
      lex.at(T.End) ? 'The file ends where a value should stand.' : `“${lex.value.slice(0, 40)}” stands where a value should.`,
    )
    const closes = lex.is('}') || lex.is(')') || lex.is(']') || lex.is(',') || lex.is(';')
    if (!closes && !lex.at(T.End)) lex.advance()
    return this.scalar('code', 'plain', null, from, closes ? from : to)
  }

  private keywordValue(): Node {
    const { lex } = this
    const { from, to } = lex
    if (lex.is('function')) {
      lex.advance()
      this.functionBody(from)
      return this.scalar('code', 'plain', null, from, lex.before)
    }
    if (lex.is('nil') || lex.is('true') || lex.is('false')) {
      const word = lex.value
      lex.advance()
      return word === 'nil' ? this.scalar('null', 'plain', null, from, to) : this.scalar('bool', 'plain', word === 'true', from, to)
    }
    this.report('syntax', from, to, `“${lex.value}” stands where a value should.`)
    return this.scalar('code', 'plain', null, from, from)
  }

  private string(): ScalarNode {
    const { lex, text } = this
    const from = lex.from
    const style = text.charCodeAt(from) === 34 ? 'double' : 'single'
    if (lex.unclosed >= 0) {
      // what looks like the end of the value on this line is taken for it
      const body = text.slice(from + 1, lex.to)
      const end = from + 1 + (/^[^,{}]*?(?=\s*[,}]\s*(--.*)?$)/.exec(body)?.[0].length ?? body.replace(/\s+$/, '').length)
      lex.cut(end)
      this.report('unclosed-quote', from, end, 'The quote opened here is not closed on this line. Close it at the end of the text.', {
        label: 'Close it',
        edits: [{ from: end, to: end, insert: text[from]! }],
      })
      lex.advance()
      return this.scalar('text', style, text.slice(from + 1, end), from, end)
    }
    const to = lex.to
    const source = text.slice(from + 1, to - 1)
    const { value, bad } = unescapeLua(source)
    if (bad >= 0)
      this.report(
        'bad-escape',
        from + 1 + bad,
        from + 3 + bad,
        `“${source.slice(bad, bad + 2)}” means nothing in Lua. Write two backslashes for one.`,
        { label: 'Double the backslash', edits: [{ from: from + 1 + bad, to: from + 1 + bad, insert: '\\' }] },
      )
    lex.advance()
    return this.scalar('text', style, value, from, to)
  }

  /** A text in curly quotes, as web pages write them. */
  private curly(): ScalarNode {
    const { lex, text } = this
    const from = lex.from
    const line = /^[^\r\n]*/.exec(text.slice(from + 1, from + 5000))![0]
    const close = /[\u2018-\u201f\u00ab\u00bb"']/.exec(line)
    const body = close ? line.slice(0, close.index) : line.replace(/[\s,}]*$/, '')
    const end = from + 1 + body.length + (close ? 1 : 0)
    this.report('wrong-quote', from, end, 'A curly quote, as web pages and word processors write it, stands here. Use straight ones.', {
      label: 'Use straight quotes',
      edits: [{ from, to: end, insert: `"${body.replace(/"/g, '\\"')}"` }],
    })
    lex.cut(end)
    lex.advance()
    return this.scalar('text', 'double', body, from, end)
  }

  /** A name or parenthesis with what is behind it: fields, indexes, calls. */
  private suffixed(statement: boolean): Node {
    const { lex } = this
    const from = lex.from
    let node: Node | null = null
    let keys: string[] | null = null
    let names: Span[] = []
    if (lex.is('(')) {
      lex.advance()
      const outside = this.inTable
      this.inTable = 0
      node = this.expression(0)
      this.inTable = outside
      if (lex.is(')')) lex.advance()
      else if (!this.stopped) this.report('unclosed-bracket', from, from + 1, 'The “(” opened here is never closed. Close it with “)”.')
      node =
        node.type === 'scalar' && node.kind === 'number'
          ? { ...node, from, outer: from, to: lex.before }
          : this.scalar('code', 'plain', null, from, lex.before)
    } else {
      keys = [lex.value]
      names = [{ from: lex.from, to: lex.to }]
      lex.advance()
    }
    for (;;) {
      if (this.stopped || (this.inTable > 0 && lex.newLine && !lex.is('.') && !lex.is(':'))) break
      if (lex.is('.')) {
        lex.advance()
        if (keys && lex.at(T.Name)) {
          keys.push(lex.value)
          names.push({ from: lex.from, to: lex.to })
        } else keys = null
        if (lex.at(T.Name) || lex.at(T.Keyword)) lex.advance()
        node = null
      } else if (lex.is('[')) {
        const opened = lex.from
        lex.advance()
        const key = this.expression(0)
        if (lex.is(']')) lex.advance()
        else if (!this.stopped)
          this.report('unclosed-bracket', opened, opened + 1, 'The “[” opened here is never closed. Close it with “]”.')
        if (keys && key.type === 'scalar' && (key.kind === 'text' || key.kind === 'number')) {
          keys.push(String(key.value))
          names.push({ from: opened, to: lex.before })
        } else keys = null
        node = null
      } else if (lex.is(':')) {
        const colon = { from: lex.from, to: lex.to }
        lex.advance()
        if (!lex.at(T.Name) || lex.newLine) {
          // no method: a colon where `=` should be, which the statement or field reports
          lex.cut(colon.from)
          lex.advance()
          break
        }
        const method = lex.to
        lex.advance()
        if (!(lex.is('(') || lex.is('{') || lex.at(T.String) || lex.at(T.Long))) {
          this.target = null
          if (keys) {
            lex.cut(colon.from)
            lex.advance()
          } else this.report('syntax', colon.from, method, 'After the name of a method its arguments are missing.')
          break
        }
        this.callArguments(null)
        keys = null
        node = null
      } else if (lex.is('(') || lex.is('{') || lex.at(T.String) || lex.at(T.Long)) {
        if (lex.newLine && statement && !lex.is('(')) break
        node = this.callArguments(keys && !node ? from : null)
        keys = null
      } else break
    }
    this.target = keys ? { keys, names } : null
    if (node && node.to === lex.before && node.outer === from) return node
    return this.scalar('code', 'plain', null, from, Math.max(from, lex.before))
  }

  /** The arguments of a call; a list when they are all values and a plain name is called, else null. */
  private callArguments(callee: number | null): ListNode | null {
    const { lex } = this
    if (!lex.is('(')) {
      if (lex.is('{')) this.table()
      else if (lex.at(T.String)) this.string()
      else lex.advance()
      return null
    }
    const from = lex.from
    const calleeTo = lex.before
    lex.advance()
    const outside = this.inTable
    this.inTable = 0
    const entries: Entry[] = []
    let plain = true
    while (!lex.is(')') && !lex.at(T.End) && !this.stopped) {
      const at = lex.from
      const lead = callee === null ? NO_COMMENTS : this.comments.takeLead(at)
      const value = this.expression(0)
      if (value.type === 'scalar' && value.kind === 'code') plain = false
      const entry: Entry = {
        key: String(entries.length),
        keyFrom: value.outer,
        keyTo: value.outer,
        value,
        from: value.outer,
        to: value.to,
        lead,
        trail: null,
        comma: -1,
      }
      entries.push(entry)
      if (lex.is(',')) {
        entry.comma = lex.from
        lex.advance()
        if (lex.is(')'))
          this.report('extra-comma', entry.comma, entry.comma + 1, 'A comma stands after the last value in parentheses. Remove it.', {
            label: 'Remove the comma',
            edits: [{ from: entry.comma, to: entry.comma + 1, insert: '' }],
          })
      } else if (!lex.is(')')) {
        if (lex.from === at || lex.at(T.End) || (lex.newLine && (lex.at(T.Keyword) || lex.is('}')))) break
        this.report('missing-comma', value.to, value.to, 'A comma is missing after this value.', {
          label: 'Insert the comma',
          edits: [{ from: value.to, to: value.to, insert: ',' }],
        })
      }
    }
    this.inTable = outside
    if (lex.is(')')) lex.advance()
    else if (!this.stopped) this.report('unclosed-bracket', from, from + 1, 'The “(” opened here is never closed. Close it with “)”.')
    if (callee === null || !plain || entries.length === 0) return null
    return {
      type: 'list',
      documents: false,
      flow: true,
      indent: -1,
      entries,
      tail: NO_COMMENTS,
      from,
      to: lex.before,
      outer: callee,
      anchor: null,
      tag: this.text.slice(callee, calleeTo),
    }
  }

  // ---- tables -------------------------------------------------------------------------------------------------

  private table(): Node {
    const { lex } = this
    const from = lex.from
    if (!this.enter()) return emptyScalar(this.text.length)
    const indent = this.byIndent ? this.indentAt(from) : 0
    const entries: Entry[] = []
    const seen = new Seen(entries)
    let positions = 0
    this.inTable++
    lex.advance()
    let closed = false
    while (!closed && !this.stopped && !lex.at(T.End)) {
      if (lex.is('}')) {
        if (this.byIndent && this.inTable > 1 && this.firstOnLine(lex.from) && this.indentAt(lex.from) < indent) break
        lex.advance()
        closed = true
      } else if (lex.is(',') || lex.is(';')) {
        this.report('extra-comma', lex.from, lex.to, 'A comma stands where a value should. Remove it.', {
          label: 'Remove the comma',
          edits: [{ from: lex.from, to: lex.to, insert: '' }],
        })
        lex.advance()
      } else if (this.leftTable(indent)) break
      else {
        const entry = this.field(positions + 1)
        if (!entry) continue
        if (entry.keyFrom === entry.keyTo) positions++
        else this.checkDuplicate(seen, entry)
        entries.push(entry)
        this.separator(entry)
      }
    }
    this.inTable--
    this.depth--
    if (!closed && !this.stopped)
      this.report('unclosed-bracket', from, from + 1, 'The “{” opened here is never closed. Close it with “}” after its last value.')
    const end = closed ? lex.before : Math.max(from + 1, entries[entries.length - 1]?.to ?? 0)
    const tail = this.comments.takeLead(closed ? end : lex.from)
    if (positions === 0 || positions < entries.length)
      return { type: 'map', flow: true, indent: -1, entries, tail, from, to: end, outer: from, anchor: null, tag: null }
    for (let i = 0; i < entries.length; i++) entries[i]!.key = String(i)
    return { type: 'list', documents: false, flow: true, indent: -1, entries, tail, from, to: end, outer: from, anchor: null, tag: null }
  }

  /** A line that starts a statement at the level of the table's own shows that its brace was left open. */
  private leftTable(indent: number): boolean {
    const { lex } = this
    if (!lex.newLine) return false
    if (lex.at(T.Keyword) && (lex.is('local') || lex.is('return') || lex.is('end') || lex.is('if') || lex.is('for'))) return true
    if (lex.is(')') || lex.is(']')) return true
    return (
      this.byIndent &&
      lex.at(T.Name) &&
      this.indentAt(lex.from) <= indent &&
      /^[\w.]*\.[\w.]+\s*=|^\w+\s*=\s*\{/.test(this.text.slice(lex.from, lex.from + 200))
    )
  }

  private checkDuplicate(seen: Seen, entry: Entry): void {
    const first = seen.before(entry)
    if (first)
      this.report(
        'duplicate-key',
        entry.keyFrom,
        entry.keyTo,
        `“${entry.key}” stands twice in this table, first on line ${this.lineOf(first.keyFrom)}. Only the last one counts; remove the other.`,
        undefined,
        'warning',
      )
  }

  private field(position: number): Entry | null {
    const { lex } = this
    const from = lex.from
    const entry: Entry = {
      key: String(position),
      keyFrom: from,
      keyTo: from,
      value: emptyScalar(from),
      from,
      to: from,
      lead: this.comments.takeLead(from),
      trail: null,
      comma: -1,
    }
    if (lex.is('[')) this.bracketKey(entry)
    else {
      const first = this.expression(0)
      const word = first.type === 'scalar' && first.kind === 'code' && /^[A-Za-z_]\w*$/.test(this.text.slice(first.from, first.to))
      const text = first.type === 'scalar' && first.kind === 'text'
      if (word && lex.is('=')) this.named(entry, first as ScalarNode, this.text.slice(first.from, first.to))
      else if (word && this.missingEquals(first, this.text.slice(first.from, first.to)))
        this.named(entry, first as ScalarNode, this.text.slice(first.from, first.to))
      else if (text && (lex.is(':') || lex.is('='))) this.quotedName(entry, first as ScalarNode)
      else if (lex.is('=')) {
        this.report('syntax', first.outer, first.to, 'This cannot name a field of a table. Write [ ] around it.', {
          label: 'Put it in brackets',
          edits: [
            { from: first.outer, to: first.outer, insert: '[' },
            { from: first.to, to: first.to, insert: ']' },
          ],
        })
        this.named(entry, { ...emptyScalar(first.outer), to: first.to }, this.text.slice(first.outer, first.to))
      } else entry.value = first
    }
    entry.to = Math.max(entry.value.to, entry.keyTo)
    if (lex.from === from) {
      lex.advance()
      return null
    }
    return entry
  }

  private named(entry: Entry, name: ScalarNode, key: string): void {
    const { lex } = this
    entry.key = key
    entry.keyFrom = name.from
    entry.keyTo = name.to
    const equals = lex.to
    lex.advance()
    if (lex.is('}') || lex.is(',') || lex.at(T.End)) {
      this.report('syntax', name.from, equals, `“${key}” has no value. Write one after the equals sign.`)
      entry.value = emptyScalar(equals)
    } else entry.value = this.expression(0)
  }

  private quotedName(entry: Entry, name: ScalarNode): void {
    const { lex } = this
    const source = this.text.slice(name.from, name.to)
    const colon = lex.is(':')
    this.report(
      'missing-equals',
      name.from,
      lex.to,
      colon ? 'This is written as in JSON. Lua takes ["name"] = value.' : 'A name in quotes stands in brackets in Lua: ["name"] = value.',
      {
        label: 'Write it as Lua does',
        edits: [{ from: name.from, to: lex.to, insert: `[${source}]${colon ? ' =' : this.text.slice(name.to, lex.to)}` }],
      },
    )
    this.named(entry, name, String(name.value))
  }

  private bracketKey(entry: Entry): void {
    const { lex } = this
    const from = lex.from
    lex.advance()
    const key = this.expression(0)
    if (lex.is(']')) lex.advance()
    else if (!this.stopped) this.report('unclosed-bracket', from, from + 1, 'The “[” opened here is never closed. Close it with “]”.')
    const to = lex.before
    const plain = key.type === 'scalar' && (key.kind === 'text' || key.kind === 'number' || key.kind === 'bool')
    const name = plain ? String(key.value) : this.text.slice(from, to)
    if (!lex.is('=') && !this.missingEquals({ from, to }, name)) {
      this.report('missing-equals', to, to, `After “${this.text.slice(from, to)}” an equals sign and a value are missing.`)
      entry.key = name
      entry.keyTo = to
      entry.value = emptyScalar(to)
      return
    }
    this.named(entry, { ...emptyScalar(from), from, to }, name)
  }

  private separator(entry: Entry): void {
    const { lex } = this
    this.comments.drop(entry.to)
    if (lex.is(',') || lex.is(';')) {
      const before = this.comments.takeTrail(entry.to)
      entry.comma = lex.from
      lex.advance()
      entry.trail = before ?? this.comments.takeTrail(entry.comma + 1)
      return
    }
    entry.trail = this.comments.takeTrail(entry.to)
    if (lex.is('}') || lex.at(T.End) || this.stopped) return
    if (
      lex.is(')') ||
      lex.is(']') ||
      (lex.newLine && lex.at(T.Keyword) && !['nil', 'true', 'false', 'function', 'not'].includes(lex.value))
    ) {
      if (!lex.newLine) {
        this.report('syntax', lex.from, lex.to, `This “${lex.value}” closes nothing here.`)
        lex.advance()
      }
      return
    }
    if (this.byIndent && lex.newLine && this.leftTable(this.indentAt(entry.from))) return
    this.report('missing-comma', entry.to, entry.to, 'A comma is missing after this value.', {
      label: 'Insert the comma',
      edits: [{ from: entry.to, to: entry.to, insert: ',' }],
    })
  }
}
