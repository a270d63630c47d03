import type { FileFinding } from '@pasticcio/core'
import type { ServerFinding } from './snapshot'

const placeOf = ({ code, from }: FileFinding): string => `${code} ${from}`

/** What is found in a file here, and what only the server can find, who knows the others too; not what somebody set aside. */
export function withHeard(own: readonly FileFinding[], heard: readonly ServerFinding[]): FileFinding[] {
  const here = new Set(own.map(placeOf))
  const asides = new Set(heard.filter(({ aside }) => aside).map(placeOf))
  const all = [...own, ...heard.filter((finding) => !here.has(placeOf(finding)))]
  return all.filter((finding) => !asides.has(placeOf(finding))).sort((a, b) => a.from - b.from)
}
