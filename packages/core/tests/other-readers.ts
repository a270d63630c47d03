/** JSON as another reader finds it once comments and trailing commas are taken out, letter by letter. */
export function readJsonWithComments(text: string): unknown {
  let plain = ''
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '"') {
      const from = i
      for (i++; text[i] !== '"'; i++) if (text[i] === '\\') i++
      plain += text.slice(from, i + 1)
    } else if (text.startsWith('//', i) || text[i] === '#') i = lineEnd(text, i) - 1
    else if (text.startsWith('/*', i)) i = text.indexOf('*/', i) + 1
    else plain += text[i]
  }
  return JSON.parse(withoutLastCommas(plain)) as unknown
}

function lineEnd(text: string, at: number): number {
  const end = text.indexOf('\n', at)
  return end < 0 ? text.length : end
}

function withoutLastCommas(plain: string): string {
  let result = ''
  for (let i = 0; i < plain.length; i++) {
    if (plain[i] === '"') {
      const from = i
      for (i++; plain[i] !== '"'; i++) if (plain[i] === '\\') i++
      result += plain.slice(from, i + 1)
    } else if (plain[i] !== ',' || !/^\s*[}\]]/.test(plain.slice(i + 1, i + 400))) result += plain[i]
  }
  return result
}

/** INI line by line: sections of keys, values with the lines that continue them; of two alike the last counts. */
export function readIniAsData(text: string): Record<string, unknown> {
  const root: Record<string, unknown> = {}
  let section = root
  let last: string | null = null
  for (const line of text.split(/\r?\n/)) {
    const head = /^\s*\[(.*)\]\s*$/.exec(line)
    const pair = /^(\S[^=]*?)\s*=\s*(.*)$/.exec(line.trimStart())
    if (/^\s*([#;]|$)/.test(line)) continue
    if (head) section = (root[head[1]!] as Record<string, unknown> | undefined) ?? ((root[head[1]!] = {}) as Record<string, unknown>)
    else if (/^\s/.test(line) && last !== null && !pair) section[last] = `${String(section[last])}\n${line.trim()}`
    else if (pair) section[(last = pair[1]!)] = unquoted(pair[2]!.replace(/\s[#;].*$/, '').trim())
  }
  return root
}

const unquoted = (value: string): string => /^"(.*)"$/.exec(value)?.[1] ?? value
