import { posix } from 'node:path'
import {
  RuleBook,
  arrangementOf,
  formatOf,
  formatOrText,
  inferRules,
  isPlainText,
  parse,
  parsePointer,
  pathOf,
  readingFor,
  type Family,
  type Rule,
} from '@pasticcio/core'
import { hashOf } from '../db/repositories/blobs'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { rulesOf } from './file-rules'
import type { Installed } from './inventory'
import { PICTURE_KINDS, fitPicture, pictureIn, type PictureFacts } from './pictures'
import { requireOwner } from './settings'
import { SIZES } from './sizes'
import { decode } from './text'

/** The setting that names a file: the path of its settings file, and its JSON Pointer. */
export interface Naming {
  readonly path: string
  readonly pointer: string
}

/** A file that a setting may name. */
export interface NamedFile {
  /** As the setting writes it: the path below the folder. */
  readonly name: string
  readonly path: string
  /** In bytes. */
  readonly size: number
  /** Null for what is no picture, or none that can be read. */
  readonly picture: PictureFacts | null
  /** Whether it waits in the tray. */
  readonly staged: boolean
}

export interface NamedFiles {
  /** The folder they lie in, and where one that is uploaded goes. */
  readonly folder: string
  readonly files: readonly NamedFile[]
}

/** So many files of a folder are offered. */
const MOST_FILES = 200
const DEPTH = 3

/** The files that a setting may name, those that are staged too. @throws ServiceError `not-found`, `names-no-file` */
export async function namedFiles(context: Context, server: Server, naming: Naming): Promise<NamedFiles> {
  const { folder, rule } = await lookUp(context, server, naming)
  const fits = (path: string): boolean => path.startsWith(`${folder}/`) && endingFits(rule, path)
  const here = (await listed(server, folder)).filter(({ path }) => fits(path))
  const drafts = (await context.drafts.list(server.row.id)).filter(({ path }) => fits(path))
  const staged = new Map(drafts.map(({ path, sha }) => [path, sha]))
  const paths = [...new Set([...here.map(({ path }) => path), ...staged.keys()])].sort().slice(0, MOST_FILES)
  const files: NamedFile[] = []
  for (const path of paths) {
    const sha = staged.get(path)
    const isPicture = rule.means === 'picture'
    const bytes = sha ? await context.blobs.requireBytes(sha) : isPicture ? await readSmall(server, path) : null
    const size = bytes?.length ?? here.find((file) => file.path === path)?.size ?? 0
    files.push({
      name: path.slice(folder.length + 1),
      path,
      size,
      picture: bytes && isPicture ? pictureIn(bytes) : null,
      staged: sha !== undefined,
    })
  }
  return { folder, files }
}

/** A picture of the server, as it is staged or as it stands there. @throws ServiceError `not-found` also for what is no picture */
export async function readPicture(
  context: Context,
  server: Server,
  path: string,
  standing: boolean,
): Promise<{ bytes: Uint8Array; facts: PictureFacts }> {
  const draft = standing ? null : await context.drafts.get(server.row.id, path)
  const bytes = draft ? await context.blobs.requireBytes(draft.sha) : await readSmall(server, path)
  const facts = bytes && pictureIn(bytes)
  if (!facts) throw notFound(`picture ${path} on this server`)
  return { bytes, facts }
}

/** A file to be put where a setting looks for it. */
export interface Upload {
  readonly name: string
  readonly bytes: Uint8Array
  /** Takes a picture that is of another size than the setting says. */
  readonly asItIs: boolean
}

/**
 * Stages a file beside what else is in the tray; one that is there already, byte for byte, is not staged.
 * @throws ServiceError `names-no-file`, `bad-input`, and `picture-differs` with what it is for one of another kind or size
 */
export async function stageNamed(
  context: Context,
  server: Server,
  naming: Naming,
  upload: Upload,
  account: string,
): Promise<{ readonly path: string; readonly name: string; readonly staged: boolean }> {
  const { folder, rule } = await lookUp(context, server, naming)
  const path = await placeFor(server, folder, rule, upload.name)
  if (rule.means === 'picture') fitPicture(rule, upload)
  const done = { path, name: path.slice(folder.length + 1) }
  const id = server.row.id
  const known = await context.drafts.get(id, path)
  const standing = (await server.place.read(path, SIZES.package)) ?? Buffer.alloc(0)
  const baseSha = hashOf(standing)
  const sha = hashOf(upload.bytes)
  if (sha === baseSha) {
    if (known) await context.drafts.removeIf(id, path, known.sha)
    return { ...done, staged: false }
  }
  const draft = { path, baseSha, sha, changedBy: account, changedAt: context.now().toISOString() }
  if (!(await context.drafts.replace(id, draft, [standing, upload.bytes], known?.sha ?? null)))
    throw new ServiceError(
      'draft-changed',
      409,
      `Somebody else put ${path} into the tray just now. Look at theirs first; yours was not kept.`,
    )
  return { ...done, staged: true }
}

interface LookedUp {
  readonly folder: string
  readonly rule: Rule
}

async function lookUp(context: Context, server: Server, { path, pointer }: Naming): Promise<LookedUp> {
  const owner = await requireOwner(server, path)
  const rule = await ruleAt(context, server, owner, { path, pointer })
  if (rule?.means !== 'picture' && rule?.means !== 'file')
    throw new ServiceError('names-no-file', 422, `The setting ${pointer} of ${path} is not known to name a file. Say what it is first.`)
  return { folder: await folderFor(server, owner, path, rule), rule }
}

async function ruleAt(context: Context, server: Server, owner: Installed, { path, pointer }: Naming): Promise<Rule | null> {
  const given = rulesOf(await context.rules.of(server.row.id), server.family, owner, path)
  const draft = await context.drafts.get(server.row.id, path)
  const bytes = draft ? await context.blobs.requireBytes(draft.sha) : await server.place.read(path, SIZES.settings)
  if (!bytes) throw notFound(`file ${path}`)
  const document = parse(decode(path, bytes), formatOrText(path), readingFor(path, server.family))
  return new RuleBook([...given, ...inferRules(document)]).find(parsePointer(pointer) ?? [])
}

/** The first folder there is of those that may be meant: below the settings file, below the plugin’s, below the server’s. */
async function folderFor(server: Server, owner: Installed, path: string, { folder = '' }: Rule): Promise<string> {
  const beside = posix.dirname(path)
  const home = posix.dirname(pathOf(server.family, owner, 'x'))
  const bases = folder === '' ? [beside] : [beside, home, '.']
  const places = [...new Set(bases.map((base) => posix.join(base, folder)))].filter((place) => place !== '.' && !place.startsWith('..'))
  for (const place of places) if ((await listed(server, place)).length > 0) return place
  return places[0] ?? beside
}

const listed = (server: Server, folder: string): ReturnType<Server['place']['list']> =>
  server.place.list(folder, DEPTH, () => undefined).catch(() => [])

async function readSmall(server: Server, path: string): Promise<Buffer | null> {
  const info = await server.place.stat(path)
  return info && info.size <= SIZES.picture ? server.place.read(path, SIZES.picture) : null
}

const endingOf = (path: string): string => posix.extname(path).slice(1).toLowerCase()

function endingFits({ means, endings = [] }: Rule, path: string): boolean {
  const ending = endingOf(path)
  if (endings.length > 0) return endings.some((one) => one === ending || (isJpeg(one) && isJpeg(ending)))
  return means === 'picture' ? PICTURE_KINDS.some((kind) => kind === ending || (kind === 'jpg' && isJpeg(ending))) : ending !== ''
}
const isJpeg = (ending: string): boolean => ending === 'jpg' || ending === 'jpeg'

/** Where an upload of this name goes. @throws ServiceError `bad-input` for a name that leads elsewhere or may not be written */
async function placeFor({ family }: Server, folder: string, rule: Rule, name: string): Promise<string> {
  const refuse = (why: string): never => {
    throw new ServiceError('bad-input', 400, `${name} cannot be put into ${folder}: ${why}.`)
  }
  const path = posix.join(folder, name)
  if (!path.startsWith(`${folder}/`) || name.split('/').some((part) => part === '' || part.startsWith('.')))
    return refuse('give it a plain name')
  // the ASCII control characters, which no file system shows
  if (/[\\:*?"<>|]/.test(name) || [...name].some((letter) => letter < ' ')) return refuse('give it a name of letters, digits, - and _')
  if (!endingFits(rule, path)) return refuse(`the setting takes ${(rule.endings ?? PICTURE_KINDS).map((one) => `.${one}`).join(', ')}`)
  if (rule.means === 'file' && isCode(family, path)) return refuse('settings are edited under Settings, and plugins come from the pantry')
  return path
}

/** What runs, or is read as settings, is not put anywhere this way. */
const isCode = (family: Family, path: string): boolean =>
  (formatOf(path) !== null && !isPlainText(path)) || arrangementOf(family).isPackage(family, path)
