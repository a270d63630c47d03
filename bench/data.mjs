// Settings files for the benchmarks, made up by a seeded generator: commented like real ones, in the demo world's words.
export function random(seed) {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}
const WORDS = [
  'reed',
  'clay',
  'amber',
  'kist',
  'ferry',
  'market',
  'hamper',
  'stall',
  'pause',
  'claim',
  'refund',
  'title',
  'icon',
  'sound',
  'weight',
  'limit',
]

/** Commented YAML of about so many bytes: sections of switches, numbers, texts and lists, as an author writes them. */
export function commentedYaml(bytes, seed = 1) {
  const next = random(seed)
  const word = () => WORDS[Math.floor(next() * WORDS.length)]
  const parts = ['# Settings of the plugin. Every value says what it does.\n\n']
  let size = 0
  for (let i = 0; size < bytes; i++) {
    const name = `${word()}-${i}`
    const text = `# What ${word()} and ${word()} do together, and when it matters.\n# One of: ${word()}, ${word()}, ${word()}.\n${name}:\n  enabled: ${next() < 0.5}\n  # In seconds.\n  pause: ${Math.floor(next() * 900)}\n  price: ${(next() * 90).toFixed(2)}   # for each ${word()}\n  title: "The ${word()} of {player}"\n  note: ${word()} and ${word()} at the ${word()}\n  goods:\n    - ${word()}\n    - ${word()}\n  places: [${word()}, ${word()}]\n\n`
    parts.push(text)
    size += text.length
  }
  return parts.join('')
}

/** YAML with so many entries of one group, some 85 bytes each: 1.7 MB for 20,000. */
export function manyEntries(count, seed = 2) {
  const next = random(seed)
  const parts = ['entries:\n']
  for (let i = 0; i < count; i++)
    parts.push(
      `  entry-${i}:\n    price: ${Math.floor(next() * 900)}\n    title: "Entry ${i} of the ferry"\n    enabled: ${next() < 0.5}\n`,
    )
  return parts.join('')
}

export function jsonText(count, seed = 3) {
  const next = random(seed)
  const entries = {}
  for (let i = 0; i < count; i++)
    entries[`entry-${i}`] = {
      price: Math.floor(next() * 900),
      title: `Entry ${i} of the ferry`,
      enabled: next() < 0.5,
      goods: ['reed', 'clay'],
    }
  return JSON.stringify({ entries }, null, 2)
}

export function luaText(count, seed = 4) {
  const next = random(seed)
  const parts = ['-- Settings.\nConfig = {}\n\n']
  for (let i = 0; i < count; i++)
    parts.push(
      `-- Entry ${i}.\nConfig.Entry${i} = {\n  price = ${Math.floor(next() * 900)}, -- for each\n  title = "Entry ${i} of the ferry",\n  enabled = ${next() < 0.5},\n  goods = { 'reed', 'clay' },\n  pause = 15 * 60,\n}\n`,
    )
  return parts.join('')
}
