/** A pattern is held against so many characters of a text at most. */
export const MOST_MATCHED = 1000
const LONGEST = 500

/**
 * A pattern of somebody's, made ready; null for one that is none, or that could take forever: a repetition
 * of something that holds a repetition or a choice, or what refers back to what was found.
 */
export function safePattern(source: string): RegExp | null {
  if (source.length > LONGEST || /\\[1-9k]/.test(source) || repeatsWithin(source)) return null
  try {
    return new RegExp(source, 'u')
  } catch {
    return null
  }
}

/** Whether a repeated group holds a repetition or a choice itself. */
function repeatsWithin(source: string): boolean {
  const open: boolean[] = []
  let inClass = false
  for (let i = 0; i < source.length; i++) {
    const sign = source[i]!
    if (sign === '\\') i++
    else if (inClass) inClass = sign !== ']'
    else if (sign === '[') inClass = true
    else if (sign === '(') open.push(false)
    else if (sign === ')') {
      const holds = open.pop() ?? false
      const isRepeated = /^[*+]|^\{\d+,\d*\}/.test(source.slice(i + 1))
      if (holds && isRepeated) return true
      if (open.length > 0 && (holds || isRepeated)) open[open.length - 1] = true
    } else if ((/[*+|]/.test(sign) || /^\{\d+,\d*\}/.test(source.slice(i))) && open.length > 0) open[open.length - 1] = true
  }
  return false
}
