import { array, boolean, object, string, ValidationError, type InferType } from 'yup'
import { parse } from '../formats/registry'
import { yamlFormat } from '../formats/yaml/format'
import { LineIndex } from '../text/lines'
import { toJson } from '../tree/values'

const pattern = string().test('pattern', '${path} is no regular expression', (value) => {
  try {
    return value === undefined || Boolean(new RegExp(value))
  } catch {
    return false
  }
})
// a line that merely holds the words is not said by the console itself
const anchored = pattern.required().matches(/^\^/, '${path} must begin with ^, so that it fits whole lines only')
const pointer = string().matches(/^\//, '${path} must be a JSON Pointer, as in /name')

/** What a description of a server family must hold. */
export const familySchema = object({
  id: string()
    .matches(/^[a-z][a-z0-9-]*$/)
    .required(),
  title: string().required(),
  'game-version': object({ file: string().required(), at: pointer.required() }).required(),
  plugins: object({
    // the ways there are: arrangements/index.ts
    kept: string()
      .oneOf(['packed'] as const)
      .default('packed'),
    folder: string().required(),
    ending: string().required(),
    'install-as': string().required(),
    'data-folder': string().required(),
  }).required(),
  descriptor: object({
    file: string().required(),
    name: pointer.required(),
    version: pointer.required(),
    summary: pointer,
    game: pointer,
    authors: pointer,
    requires: pointer,
    optional: pointer,
    nodes: pointer,
    commands: pointer,
    changes: pointer,
    defaults: string(),
  }).required(),
  settings: object({ endings: array(string().required()).required(), records: array(string().required()).default([]) }).required(),
  console: object({
    stop: string().required(),
    reload: string().required(),
    grant: string(),
    'as-player': string(),
    line: pattern.required(),
    // lines that pass on what somebody typed; nothing is read from these
    speech: pattern,
    ready: anchored,
    state: anchored,
    generated: anchored,
    loaded: anchored,
    failed: anchored,
  }).required(),
  'after-change': string()
    .oneOf(['reload', 'restart', 'stopped'] as const)
    .required(),
  'after-install': string()
    .oneOf(['restart'] as const)
    .required(),
  reading: object({
    yaml: string()
      .oneOf(['1.1', '1.2'] as const)
      .required(),
    'json-comments': boolean().required(),
  }).required(),
  texts: object({ placeholder: array(string().required()).length(2).required(), 'line-break': string() }).required(),
})
  .noUnknown()
  .strict()

export type Family = InferType<typeof familySchema>

/** A description that cannot be used, with the reason in plain words. */
export class FamilyError extends Error {
  readonly code = 'bad-family'
}

/** Reads the description of a server family from its YAML. @throws FamilyError naming line or field. */
export function readFamily(text: string): Family {
  const document = parse(text, yamlFormat.id)
  const error = document.findings.find((finding) => finding.severity === 'error')
  if (error) throw new FamilyError(`line ${new LineIndex(text).position(error.from).line}: ${error.message}`)
  try {
    const data = toJson(document, document.root)
    familySchema.validateSync(data, { abortEarly: true })
    // checking strictly fills nothing in
    return familySchema.cast(data)
  } catch (cause) {
    if (cause instanceof ValidationError) throw new FamilyError(cause.message, { cause })
    throw cause
  }
}

/** Fills `{plugin}` and the like in a place or a command. */
export function fillIn(template: string, values: Readonly<Record<string, string>>): string {
  return template.replace(/\{([\w-]+)\}/g, (whole, name: string) => values[name] ?? whole)
}
