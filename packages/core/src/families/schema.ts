import { SURFACES, type SurfaceId } from '../messages/message'
import { array, boolean, mixed, number, object, string, type InferType } from 'yup'
import { anchored, pattern, place, pointer, setting, template } from './schema-values'

/** The ways packages are kept; each is a module of arrangements/. */
export const KEPT = ['packed', 'single-file', 'unpacked'] as const

/** What makes a plugin known to the server: a line, an item of a list, or a key with a value. */
const registration = object({
  kind: string()
    .oneOf(['line', 'item', 'key'] as const)
    .required(),
  file: place.required(),
  line: template.when('kind', { is: 'line', then: (schema) => schema.required() }),
  // lines of the same kind: a new one goes after the last of them
  like: pattern,
  at: pointer.when('kind', { is: (kind: string) => kind !== 'line', then: (schema) => schema.defined() }),
  value: mixed(),
})
  .noUnknown()
  .default(undefined)

/** Something of a package that belongs elsewhere than the package itself; from the family or from a package. */
export const pieceSchema = object({
  kind: string()
    .oneOf(['copy', 'entries', 'block'] as const)
    .required(),
  from: string().required(),
  to: place.required(),
  at: pointer.default(''),
  of: string(),
  keep: boolean().default(true),
  because: string().default(''),
}).noUnknown()

/** A list the server keeps: ids in a file, or folders. */
const registry = object({ file: place, at: pointer.default(''), id: string(), name: string(), group: string(), folders: place })
  .noUnknown()
  .default(undefined)

const descriptor = object({
  file: place,
  header: object({ lines: pattern.required(), format: string().default('yaml') })
    .noUnknown()
    .default(undefined),
  blocks: object({ begin: pattern.required(), end: pattern.required() }).noUnknown().default(undefined),
  name: pointer,
  version: pointer,
  summary: pointer,
  game: pointer,
  authors: pointer,
  requires: pointer,
  optional: pointer,
  conflicts: pointer,
  companions: pointer,
  nodes: pointer,
  // those that everybody holds
  open: pointer,
  commands: pointer,
  placeholders: pointer,
  changes: pointer,
  tasks: pointer,
  pieces: pointer,
  defaults: string(),
  // where a file that describes the settings of another lies; {file} stands for the name of that
  schemas: string().matches(/\{file\}/, '${path} must hold {file}'),
  readme: array(string().required()).default(['README.md', 'readme.md', 'README.txt', 'readme.txt']),
  changelog: array(string().required()).default(['CHANGELOG.md', 'changelog.md']),
}).noUnknown()

const plugins = object({
  kept: string().oneOf(KEPT).default('packed'),
  folder: place.required(),
  ending: string(),
  'install-as': place,
  'data-folder': place,
  depth: number().integer().min(1).max(4).default(1),
  'folder-name': pattern,
  off: place,
}).noUnknown()

const settings = object({
  endings: array(string().required()).default([]),
  files: array(template.required()).default([]),
  except: array(template.required()).default([]),
  records: array(template.required()).default([]),
}).noUnknown()

const consoleSchema = object({
  stop: string().required(),
  // so many seconds it may take to stop
  'stop-within': number().min(1).max(3600).default(30),
  reload: template,
  load: template,
  flush: template,
  // asks what each plugin takes of a tick
  times: template,
  grant: template,
  'as-player': template,
  // asks which nodes a player holds
  rights: template,
  'open-place': template,
  line: pattern.required(),
  // lines that pass on what somebody typed; nothing is read from these
  speech: pattern,
  ready: anchored.required(),
  state: anchored,
  generated: anchored,
  loaded: anchored,
  failed: anchored,
  time: anchored,
  flushed: anchored,
  'rights-told': anchored,
  // first words of the server's own commands
  commands: array(string().required()).default([]),
}).noUnknown()

/** A folder of the server's own that only its start command or a script of its names; {profile} stands for it. */
const profile = object({
  scripts: array(string().required()).default([]),
  says: pattern.required(),
  // what it is called where nothing names it
  folder: place.required(),
})
  .noUnknown()
  .default(undefined)

/** What one code of the family's markup does to the letters after it. */
const markSchema = object({
  code: string().required(),
  colour: string().matches(/^#[0-9a-fA-F]{6}$/),
  bold: boolean(),
  italic: boolean(),
  underline: boolean(),
  struck: boolean(),
  ends: string().oneOf(['colour', 'bold', 'italic', 'underline', 'struck', 'all'] as const),
})
  .noUnknown()
  .required()

/** How a text is seen in one of the places of `SURFACES`. */
const surfaceSchema = object({
  /** Letters of a line that are seen. */
  letters: number().integer().min(1),
  rows: number().integer().min(1),
  /** What it stands on. */
  ground: string().oneOf(['dark', 'light'] as const),
})
  .noUnknown()
  .default(undefined)
const surfacesSchema = object(Object.fromEntries(SURFACES.map((id) => [id, surfaceSchema])) as Record<SurfaceId, typeof surfaceSchema>)
  .noUnknown()
  .default({})

/** Console commands by which the permission plugin is told what is one player’s alone; without them it is written to the file. */
const playerCommands = object({
  grant: template.required(),
  deny: template,
  clear: template.required(),
  join: template,
  leave: template,
  // what it says once it is done, and where it will not
  done: anchored.required(),
  refused: anchored,
  // what stands behind an amount where something ends; without it nothing does
  term: object({ minute: string(), hour: string(), day: string() }).noUnknown().default(undefined),
})
  .noUnknown()
  .default(undefined)

/** What a description of a server family must hold; docs/families.md explains each part. */
export const familySchema = object({
  id: string()
    .matches(/^[a-z][a-z0-9-]*$/, '${path} takes small letters, digits and dashes')
    .required(),
  title: string().required(),
  'game-version': object(setting).noUnknown().required(),
  // what must be so for plugins to be loaded at all
  framework: object({ file: place.required(), at: pointer, is: mixed(), line: string(), says: string().required() })
    .noUnknown()
    .default(undefined),
  profile,
  plugins: plugins.required(),
  descriptor: descriptor.required(),
  register: array(registration.required()).default([]),
  pieces: array(pieceSchema.required()).default([]),
  settings: settings.required(),
  console: consoleSchema.required(),
  // ports the server itself listens at, by the names rules call them
  ports: array(
    object({ name: string().required(), ...setting })
      .noUnknown()
      .required(),
  ).default([]),
  registries: object({
    items: registry,
    blocks: registry,
    sounds: registry,
    effects: registry,
    places: registry,
    groups: registry,
    players: registry,
  })
    .noUnknown()
    .default({}),
  // who may what, beside the groups of the registry
  permissions: object({
    players: object(setting).noUnknown().default(undefined),
    operators: object(setting).noUnknown().default(undefined),
    wins: string()
      .oneOf(['nearest', 'denial'] as const)
      .default('nearest'),
    commands: playerCommands,
    // what the id of a player looks like
    id: anchored,
  })
    .noUnknown()
    .default({}),
  'after-change': string()
    .oneOf(['reload', 'restart', 'stopped'] as const)
    .required(),
  // what makes a changed record count: the server takes it anew by a reload, or would write over it while it runs
  'after-record': string()
    .oneOf(['reload', 'stopped'] as const)
    .default('stopped'),
  'after-install': string()
    .oneOf(['restart', 'load'] as const)
    .required(),
  reading: object({
    yaml: string()
      .oneOf(['1.1', '1.2'] as const)
      .required(),
    'json-comments': boolean().required(),
  })
    .noUnknown()
    .required(),
  texts: object({
    placeholder: array(string().required()).length(2).required(),
    'line-break': string(),
    codes: pattern,
    marks: array(markSchema).default([]),
    surfaces: surfacesSchema,
    // where the game's own settings say in which language it speaks
    language: object(setting).noUnknown().default(undefined),
  })
    .noUnknown()
    .required(),
})
  .noUnknown()
  .strict()
  .test('whole', '', function (family) {
    const missing = whatIsMissing(family)
    return missing === null || this.createError({ path: missing.path, message: missing.message })
  })

export type Family = InferType<typeof familySchema>
export type Registration = Family['register'][number]
export type Piece = InferType<typeof pieceSchema>

/** What one part of a description asks of another. */
function whatIsMissing(family: Family): { path: string; message: string } | null {
  const { plugins, descriptor, settings, console } = family ?? {}
  // a part that is not there at all is told by itself
  if ([plugins, descriptor, settings, console].some((part) => typeof part !== 'object' || part === null)) return null
  const kept = plugins.kept ?? 'packed'
  const lacks = (path: string, why: string): { path: string; message: string } => ({ path, message: `${path} is missing: ${why}` })
  if (kept !== 'unpacked' && plugins.ending === undefined) return lacks('plugins.ending', 'it tells packages from other files')
  if (kept !== 'unpacked' && plugins['install-as'] === undefined) return lacks('plugins.install-as', 'it says where a package goes')
  if (kept === 'single-file' && !descriptor.header) return lacks('descriptor.header', 'a single file says in its first lines what it is')
  if (kept !== 'single-file' && descriptor.file === undefined) return lacks('descriptor.file', 'packages are known by it')
  if ((settings.endings ?? []).length === 0 && (settings.files ?? []).length === 0)
    return lacks('settings.files', 'it says where settings are')
  if (kept === 'single-file' && plugins['data-folder'] === undefined && (settings.files ?? []).length === 0)
    return lacks('settings.files', 'these plugins have no folder of their own')
  if (!family.profile && JSON.stringify(family).includes('{profile}'))
    return lacks('profile', '{profile} stands for the folder it tells how to find')
  if (family['after-change'] === 'reload' && console.reload === undefined)
    return lacks('console.reload', 'after-change says that a reload makes changes count')
  if (family['after-install'] === 'load' && console.load === undefined)
    return lacks('console.load', 'after-install says that a command loads new packages')
  return null
}
