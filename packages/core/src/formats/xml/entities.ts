/** The references XML defines itself (chapter 4.6 of its specification), and those by number. */
const NAMED: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }

export interface Decoded {
  readonly value: string
  /** Offset of the first reference that means nothing, and its length; -1 when all are fine. */
  readonly bad: number
  readonly length: number
}

/** Resolves references in a piece of text; unknown ones stay as written. */
export function decodeXml(source: string): Decoded {
  let bad = -1
  let length = 0
  const value = source.replace(
    /\r\n?|&(?:#x([0-9a-fA-F]{1,6});|#(\d{1,7});|([A-Za-z]\w*);)?/g,
    (all, hex: string | undefined, decimal: string | undefined, name: string | undefined, at: number) => {
      if (all.startsWith('\r')) return '\n'
      const code = hex !== undefined ? parseInt(hex, 16) : decimal !== undefined ? Number(decimal) : -1
      if (code >= 0 && code <= 0x10ffff) return String.fromCodePoint(code)
      if (name !== undefined && Object.hasOwn(NAMED, name)) return NAMED[name]!
      if (bad < 0) {
        bad = at
        length = all.length
      }
      return all
    },
  )
  return { value, bad, length }
}

/** Text as it stands between tags. */
export function encodeText(text: string): string {
  return text
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/\r/g, '&#13;')
    .replace(/^\s+|\s+$/g, (blanks) => [...blanks].map((char) => `&#${char.charCodeAt(0)};`).join(''))
}

/** Text as it stands in the quotes of an attribute. */
export function encodeAttribute(text: string, quote: '"' | "'"): string {
  return text
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/[\t\r\n]/g, (char) => `&#${char.charCodeAt(0)};`)
    .replaceAll(quote, quote === '"' ? '&quot;' : '&apos;')
}
