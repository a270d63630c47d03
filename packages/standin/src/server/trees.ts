import { parse as parseIni } from 'ini'
import { parse as parseLua, type Expression, type Statement, type TableConstructorExpression } from 'luaparse'
import { LineCounter, isMap, isScalar, parseDocument } from 'yaml'

/** A settings file a plugin cannot use; the line is that of the cause. */
export class SettingsError extends Error {
  constructor(
    readonly line: number,
    message: string,
  ) {
    super(message)
    this.name = 'SettingsError'
  }
}

/** A settings file as plain data, with the lines its settings stand in. */
export interface SettingsTree {
  readonly data: unknown
  /** The line of a setting, or of the nearest section around it. */
  lineOf(path: readonly string[]): number
}

/** Reads a settings file by its ending, with a reader that is none of Pasticcio's. @throws SettingsError */
export function readTree(path: string, text: string): SettingsTree {
  if (path.endsWith('.json')) return jsonTree(text)
  if (path.endsWith('.ini')) return iniTree(text)
  return path.endsWith('.lua') ? luaTree(text) : yamlTree(text)
}

function yamlTree(text: string): SettingsTree {
  const lines = new LineCounter()
  const document = parseDocument(text, { lineCounter: lines })
  const error = document.errors[0]
  if (error) throw new SettingsError(error.linePos?.[0].line ?? 1, error.message.split('\n')[0]!.replace(/ at line.*$/, ''))
  const lineOf = (path: readonly string[]): number => {
    for (let length = path.length; length > 0; length--) {
      const map = length === 1 ? document.contents : document.getIn(path.slice(0, length - 1), true)
      if (!isMap(map)) continue
      const key = map.items.find((item) => isScalar(item.key) && String(item.key.value) === path[length - 1])?.key
      if (isScalar(key) && key.range) return lines.linePos(key.range[0]).line
    }
    return 1
  }
  return { data: document.toJS(), lineOf }
}

function jsonTree(text: string): SettingsTree {
  try {
    // every JSON text is YAML, of which the reader knows lines
    return { data: JSON.parse(text) as unknown, lineOf: yamlTree(text).lineOf }
  } catch (error) {
    if (error instanceof SettingsError) throw error
    const at = Number(/position (\d+)/.exec((error as Error).message)?.[1] ?? 0)
    throw new SettingsError(text.slice(0, at).split('\n').length, 'is no JSON')
  }
}

function iniTree(text: string): SettingsTree {
  const lines = new Map<string, number>()
  let section: string[] = []
  for (const [at, line] of text.split('\n').entries()) {
    const head = /^\s*\[([^\]]+)\]/.exec(line)?.[1]
    if (head !== undefined) section = [head.trim()]
    const key = head === undefined ? /^\s*([^;#=]+?)\s*=/.exec(line)?.[1] : undefined
    if (head !== undefined || key !== undefined) lines.set([...section, ...(key === undefined ? [] : [key])].join('\0'), at + 1)
  }
  return { data: parseIni(text), lineOf: (path) => nearest(lines, path) }
}

function luaTree(text: string): SettingsTree {
  const lines = new Map<string, number>()
  try {
    const { body } = parseLua(text, { locations: true, comments: false, luaVersion: '5.3' })
    return { data: dataOf(body, lines), lineOf: (path) => nearest(lines, path) }
  } catch (error) {
    const { line, message } = error as { line?: number; message: string }
    if (line === undefined) throw error
    throw new SettingsError(line, message.replace(/^\[\d+:\d+\] /, ''))
  }
}

function nearest(lines: ReadonlyMap<string, number>, path: readonly string[]): number {
  for (let length = path.length; length > 0; length--) {
    const line = lines.get(path.slice(0, length).join('\0'))
    if (line !== undefined) return line
  }
  return 1
}

/** What a program gives back, or the tables it fills: of what it would do nothing is run. */
function dataOf(body: readonly Statement[], lines: Map<string, number>): unknown {
  const last = body.at(-1)
  if (last?.type === 'ReturnStatement' && last.arguments[0]) return valueOf(last.arguments[0], [], lines)
  const data: Record<string, unknown> = {}
  for (const statement of body) {
    if (statement.type !== 'AssignmentStatement') continue
    const names = namesOf(statement.variables[0]!)
    if (names.length === 0) continue
    let at = data
    // the first name is that of the whole
    const path = names.length > 1 ? names.slice(1) : []
    for (const name of path.slice(0, -1)) at = (at[name] ??= {}) as Record<string, unknown>
    const value = valueOf(statement.init[0]!, path, lines)
    lines.set(path.join('\0'), statement.loc?.start.line ?? 1)
    if (path.length > 0) at[path.at(-1)!] = value
    else Object.assign(data, value)
  }
  return data
}

function namesOf(variable: Expression): string[] {
  if (variable.type === 'Identifier') return [variable.name]
  return variable.type === 'MemberExpression' ? [...namesOf(variable.base), variable.identifier.name] : []
}

function valueOf(node: Expression, path: readonly string[], lines: Map<string, number>): unknown {
  switch (node.type) {
    case 'StringLiteral':
      return textOf(node.raw)
    case 'NumericLiteral':
    case 'BooleanLiteral':
      return node.value
    case 'UnaryExpression':
      return node.operator === '-' ? -Number(valueOf(node.argument, path, lines)) : undefined
    case 'TableConstructorExpression':
      return tableOf(node, path, lines)
    default:
      return undefined
  }
}

function tableOf({ fields }: TableConstructorExpression, path: readonly string[], lines: Map<string, number>): unknown {
  const section: Record<string, unknown> = {}
  const list: unknown[] = []
  for (const field of fields) {
    const key =
      field.type === 'TableKeyString'
        ? field.key.name
        : field.type === 'TableKey'
          ? String(valueOf(field.key, path, lines))
          : String(list.length)
    const own = [...path, key]
    lines.set(own.join('\0'), field.loc?.start.line ?? 1)
    const value = valueOf(field.value, own, lines)
    if (field.type === 'TableValue') list.push(value)
    else section[key] = value
  }
  return list.length > 0 ? list : section
}

const ESCAPES: Readonly<Record<string, string>> = { n: '\n', t: '\t', r: '\r' }

function textOf(raw: string): string {
  const long = /^\[(=*)\[([^]*)\]\1\]$/.exec(raw)
  if (long) return long[2]!
  return raw.slice(1, -1).replace(/\\(.)/g, (_all, letter: string) => ESCAPES[letter] ?? letter)
}
