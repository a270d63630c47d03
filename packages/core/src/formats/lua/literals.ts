/** Lua's literals: what their source means, and how a text is written as one (reference manual, chapter 3.1). */

const SIMPLE: Readonly<Record<string, number>> = { a: 7, b: 8, f: 12, n: 10, r: 13, t: 9, v: 11, '\\': 92, '"': 34, "'": 39 }

export interface Unescaped {
  readonly value: string
  /** Offset in the source of the first escape that means nothing; -1 when all are fine. */
  readonly bad: number
}

/** The text between the quotes of a short string. Escaped bytes that make up UTF-8 are read as that. */
export function unescapeLua(source: string): Unescaped {
  if (!source.includes('\\')) return { value: source, bad: -1 }
  let value = ''
  let bytes: number[] = []
  let bad = -1
  const flush = (): void => {
    if (bytes.length > 0) value += decodeBytes(bytes)
    bytes = []
  }
  for (let i = 0; i < source.length;) {
    if (source[i] !== '\\') {
      flush()
      value += source[i++]
      continue
    }
    const rest = source.slice(i + 1, i + 14)
    const decimal = /^\d{1,3}/.exec(rest)?.[0]
    const hex = /^x([0-9a-fA-F]{2})/.exec(rest)
    const unicode = /^u\{([0-9a-fA-F]{1,8})\}/.exec(rest)
    if (decimal !== undefined && Number(decimal) < 256) {
      bytes.push(Number(decimal))
      i += 1 + decimal.length
    } else if (hex) {
      bytes.push(parseInt(hex[1]!, 16))
      i += 4
    } else if (unicode && parseInt(unicode[1]!, 16) <= 0x10ffff) {
      flush()
      value += String.fromCodePoint(parseInt(unicode[1]!, 16))
      i += 1 + unicode[0].length
    } else if (rest[0] === 'z') {
      i += 2
      while (i < source.length && /\s/.test(source[i]!)) i++
    } else if (rest[0] === '\r' || rest[0] === '\n') {
      flush()
      value += '\n'
      i += rest.startsWith('\r\n') ? 3 : 2
    } else if (rest !== '' && Object.hasOwn(SIMPLE, rest[0]!)) {
      flush()
      value += String.fromCharCode(SIMPLE[rest[0]!]!)
      i += 2
    } else {
      flush()
      if (bad < 0) bad = i
      value += '\\'
      i++
    }
  }
  flush()
  return { value, bad }
}

function decodeBytes(bytes: readonly number[]): string {
  try {
    return decodeURIComponent(bytes.map((byte) => '%' + byte.toString(16).padStart(2, '0')).join(''))
  } catch {
    return String.fromCharCode(...bytes)
  }
}

/** The text in long brackets: a first line end does not count, and all line ends are one. */
export function longText(source: string): string {
  const level = source.indexOf('[', 1) - 1
  const body = source.slice(level + 2, source.endsWith(']') ? source.length - level - 2 : undefined)
  return body.replace(/\r\n|\n\r|\r/g, '\n').replace(/^\n/, '')
}

/** The amount of a numeral; NaN for what is none. */
export function luaNumber(source: string): number {
  const text = source.replace(/(ull|ll)$/i, '')
  const hex = /^0x([0-9a-f]*)(?:\.([0-9a-f]*))?(?:p([+-]?\d+))?$/i.exec(text)
  if (!hex) return /^[0-9.]/.test(text) && !/[^0-9.eE+-]/.test(text) ? Number(text) : NaN
  const [, whole = '', part = '', power] = hex
  if (whole + part === '') return NaN
  const digits = parseInt(whole + part || '0', 16)
  return digits * 2 ** (Number(power ?? 0) - 4 * part.length)
}

/** Source of a short string, in the quotes given. Line ends and control characters are escaped. */
export function quoteLua(text: string, quote: '"' | "'"): string {
  const body = text.replace(
    /[\\\u0000-\u001f\u007f"']|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g,
    (char, at: number) => {
      if (char === '"' || char === "'") return char === quote ? '\\' + char : char
      if (char === '\\') return '\\\\'
      if (char === '\n') return '\\n'
      if (char === '\r') return '\\r'
      if (char === '\t') return '\\t'
      const code = char.charCodeAt(0)
      if (code > 127) return char
      // three digits where one more would be read as part of the number
      return '\\' + (/\d/.test(text[at + 1] ?? '') ? String(code).padStart(3, '0') : String(code))
    },
  )
  return quote + body + quote
}

/** Amount of a constant operation, as Lua 5.3 and later reckon; null for operators that are not arithmetic. */
export function reckon(operator: string, a: number, b: number): number | null {
  switch (operator) {
    case '+':
      return a + b
    case '-':
      return a - b
    case '*':
      return a * b
    case '/':
      return a / b
    case '//':
      return Math.floor(a / b)
    case '%':
      return a - Math.floor(a / b) * b
    case '^':
      return a ** b
    default:
      return null
  }
}
