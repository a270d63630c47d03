import { ValidationError } from 'yup'
import { parse } from '../formats/registry'
import { yamlFormat } from '../formats/yaml/format'
import { LineIndex } from '../text/lines'
import type { Document } from '../tree/nodes'
import { locate } from '../tree/pointer'
import { toJson } from '../tree/values'
import { familySchema, type Family } from './schema'

export type { Family, Piece, Registration } from './schema'

/** Something in a description that cannot be. */
export interface FamilyFault {
  /** Counted from 1. */
  readonly line: number
  readonly message: string
}

/** A description that cannot be used, with the reason in plain words. */
export class FamilyError extends Error {
  readonly code = 'bad-family'

  constructor(
    readonly faults: readonly FamilyFault[],
    options?: ErrorOptions,
  ) {
    super(`line ${faults[0]!.line}: ${faults[0]!.message}`, options)
  }
}

/** Reads the description of a server family from its YAML. @throws FamilyError naming lines */
export function readFamily(text: string): Family {
  const document = parse(text, yamlFormat.id)
  const index = new LineIndex(text)
  const unread = document.findings.filter((finding) => finding.severity === 'error')
  if (unread.length > 0) throw new FamilyError(unread.map(({ from, message }) => ({ line: index.position(from).line, message })))
  try {
    const data = toJson(document, document.root)
    familySchema.validateSync(data, { abortEarly: false })
    // checking strictly fills nothing in
    return familySchema.cast(data)
  } catch (cause) {
    if (!(cause instanceof ValidationError)) throw cause
    const errors = cause.inner.length > 0 ? cause.inner : [cause]
    const faults = errors.map((error) => faultOf(document, index, error))
    throw new FamilyError(
      faults.sort((a, b) => a.line - b.line),
      { cause },
    )
  }
}

/** A fault where it stands: a key nobody knows at itself, and one that is missing at the section it is missing in. */
function faultOf(document: Document, index: LineIndex, { path = '', message, type, params }: ValidationError): FamilyFault {
  const [unknown] = type === 'noUnknown' ? String(params?.['unknown']).split(', ') : []
  const at = unknown === undefined ? path : [path, unknown].filter(Boolean).join('.')
  const words = unknown === undefined ? message : `${at} is no part of a description; look whether it is misspelt`
  return { line: index.position(offsetOf(document, at)).line, message: words }
}

/** Where the setting a message is about stands, or the nearest around it that is there. */
function offsetOf(document: Document, path: string): number {
  const keys = [...path.matchAll(/\["([^"]+)"\]|\[(\d+)\]|([^.[\]]+)/g)].map(([, quoted, index, bare]) => quoted ?? index ?? bare!)
  for (let depth = keys.length; depth > 0; depth--) {
    const found = locate(document, keys.slice(0, depth))
    if (found) return found.entry.from
  }
  return 0
}

/** Fills `{plugin}` and the like in a place or a command. */
export function fillIn(template: string, values: Readonly<Record<string, string>>): string {
  return template.replace(/\{([\w-]+)\}/g, (whole, name: string) => (Object.hasOwn(values, name) ? values[name]! : whole))
}
