/** How a platform reads a file. It is part of every document, so that reading it again never asks who wants to know. */
export interface Reading {
  /** JSON: whether comments and commas behind last values are allowed. */
  readonly jsonComments: boolean
  /** YAML: which version's plain words count. Where nobody said, 1.2 is read, and what 1.1 reads otherwise is told. */
  readonly yaml: '1.1' | '1.2' | 'unsaid'
  /** Lua, XML: pointers of what is a list even where it holds nothing, or one item; positions stand as `*`. */
  readonly lists?: ReadonlySet<string>
}

/** What a family says about reading (see its schema). */
export interface FamilyReading {
  readonly reading: { readonly yaml: '1.1' | '1.2'; readonly 'json-comments': boolean }
}

/** Nothing is known of the reader: strict JSON, YAML 1.2 with notes. */
export const UNSAID: Reading = { jsonComments: false, yaml: 'unsaid' }

/** For files that are compared and carried, not judged: what a stricter reader would refuse is none of our business then. */
export const LENIENT: Reading = { jsonComments: true, yaml: 'unsaid' }

/** The same reading, without the refusals that only a strict reader knows. */
export function lenient(reading: Reading): Reading {
  return reading.jsonComments ? reading : { ...reading, jsonComments: true }
}
