/** A colour of the screen: red, green, blue from 0 to 255, and how much of it covers, from 0 to 1. */
export interface Colour {
  readonly red: number
  readonly green: number
  readonly blue: number
  readonly alpha: number
}

const HEX = /^(#|0x|&#|<#)?([0-9a-f]{3}|[0-9a-f]{6}|[0-9a-f]{8})(>?)$/i
const PARTS = /^\s*(\d{1,3})(\s*,\s*|\s+)(\d{1,3})(?:\s*,\s*|\s+)(\d{1,3})(?:(?:\s*,\s*|\s+)(\d{1,3}(?:\.\d+)?))?\s*$/

/** Reads `#c98a0b`, `0xC98A0B`, `#fc0` or `201, 138, 11`; null for what is no colour. */
export function readColour(text: string): Colour | null {
  const hex = HEX.exec(text.trim())
  if (hex) {
    const long = hex[2]!.length === 3 ? [...hex[2]!].map((digit) => digit + digit).join('') : hex[2]!
    const [red, green, blue, alpha = 255] = long.match(/../g)!.map((pair) => parseInt(pair, 16))
    return { red: red!, green: green!, blue: blue!, alpha: alpha / 255 }
  }
  const parts = PARTS.exec(text)
  if (!parts) return null
  const amounts = [parts[1], parts[3], parts[4]].map(Number)
  if (amounts.some((amount) => amount > 255)) return null
  const alpha = parts[5] === undefined ? 1 : Number(parts[5]) > 1 ? Number(parts[5]) / 255 : Number(parts[5])
  return { red: amounts[0]!, green: amounts[1]!, blue: amounts[2]!, alpha }
}

const pair = (amount: number): string => Math.round(amount).toString(16).padStart(2, '0')

/** A colour as `#rrggbb`, as the browser's own field takes it. */
export const asHex = ({ red, green, blue }: Colour): string => `#${pair(red)}${pair(green)}${pair(blue)}`

/** Writes a colour the way another is written: its mark, capitals, and parts; what covers is kept as it was. */
export function writeColour(colour: Colour, like: string): string {
  const hex = HEX.exec(like.trim())
  if (hex) {
    const digits = asHex(colour).slice(1) + (hex[2]!.length === 8 ? pair(colour.alpha * 255) : '')
    return (hex[1] ?? '') + (/[A-F]/.test(hex[2]!) ? digits.toUpperCase() : digits) + hex[3]!
  }
  const parts = PARTS.exec(like)
  if (!parts) return asHex(colour)
  const last = parts[5] === undefined ? [] : [parts[5]]
  return [colour.red, colour.green, colour.blue, ...last].join(parts[2])
}
