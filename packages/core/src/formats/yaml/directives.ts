/** The `%` lines in front of a document (chapter 6.8), as far as they can be wrong. */
export class Directives {
  /** Handles of tags, as `!prefix!`. */
  readonly handles = new Set<string>()
  /** Where the first of them stands; -1 without any. */
  first = -1
  private version = false

  /** Takes in a line that starts at an offset; says what is wrong with it. */
  add(line: string, from: number): string | null {
    if (this.first < 0) this.first = from
    const words = line
      .replace(/\s#.*$/, '')
      .trim()
      .split(/\s+/)
    if (words[0] === '%TAG' && words[1]) this.handles.add(words[1])
    if (words[0] !== '%YAML') return null
    const again = this.version
    this.version = true
    if (again) return 'The version of YAML stands twice. Remove one of the lines.'
    return words.length === 2 && /^\d+\.\d+$/.test(words[1]!)
      ? null
      : 'Behind “%YAML” one version stands, as in “%YAML 1.2”, and nothing else.'
  }
}
