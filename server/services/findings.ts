import { CAUSES, DOTS } from '@pasticcio/core'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import type { Aside } from '../db/repositories/asides'
import { note } from './note'
import { workspaceFor, type KnownFile, type PlacedFinding, type ServerWorkspace } from './workspace'

/** The line a finding stands on, with what is wrong in it. */
export interface Excerpt {
  readonly text: string
  /** Where in that text it is wrong. */
  readonly from: number
  readonly to: number
}

export interface ShownFinding extends PlacedFinding {
  /** Null where the file is no text that was read, and where a secret stands there. */
  readonly excerpt: Excerpt | null
  /** When it was found first, since Pasticcio was started; ISO date. */
  readonly since: string
  /** Why somebody set it aside; null where nobody did. */
  readonly aside: Pick<Aside, 'reason' | 'by' | 'at'> | null
}

export interface Findings {
  readonly findings: readonly ShownFinding[]
  /** How many files were looked at. */
  readonly files: number
  /** How long that took, in milliseconds; files that are as they were need not be looked at again. */
  readonly ms: number
  /** ISO date. */
  readonly at: string
}

const LONGEST = 160

/** Everything that is wrong on a server, drafts in their places. @param path tells of one file alone @throws ServiceError `ended` */
export async function findingsOf(context: Context, server: Server, path?: string): Promise<Findings> {
  const began = performance.now()
  const all = await workspaceFor(context, server)
  const now = context.now().toISOString()
  const asides = new Map((await context.asides.list(server.row.id)).map((aside) => [aside.subject, aside]))
  const asked = path === undefined ? all.findings : all.findings.filter(({ file }) => file === path)
  const findings = asked.map((finding): ShownFinding => {
    const aside = asides.get(finding.subject)
    const told = aside ? { reason: aside.reason, by: aside.by, at: aside.at } : null
    const file = all.files.get(finding.file)
    const since = server.workspace.since(finding.subject, now)
    return { ...finding, ...hidden(file, finding), excerpt: excerptOf(file, finding), since, aside: told }
  })
  return { findings, files: all.files.size, ms: Math.round(performance.now() - began), at: now }
}

/** What is wrong with a secret is told without what it is. */
function hidden(file: KnownFile | undefined, { code, from, to }: PlacedFinding): Partial<PlacedFinding> {
  const isSecret = file?.secrets.some((one) => one.from < to && one.to > from) ?? false
  return isSecret ? { message: `${CAUSES[code].title}: ${CAUSES[code].says}`, cause: code } : {}
}

function excerptOf(file: KnownFile | undefined, { from, to }: PlacedFinding): Excerpt | null {
  if (!file || file.text === null) return null
  const { text, secrets } = file
  const start = text.lastIndexOf('\n', from - 1) + 1
  const end = text.slice(from).search(/[\r\n]/)
  const line = text.slice(start, end < 0 ? undefined : from + end)
  const secret = secrets.find((one) => one.from < start + line.length && one.to > start)
  if (secret) return { text: `${line.slice(0, Math.max(0, secret.from - start)).trimStart()}${DOTS}`, from: 0, to: 0 }
  const indent = line.length - line.trimStart().length
  const shown = line.trim().slice(0, LONGEST)
  const place = (at: number): number => Math.min(shown.length, Math.max(0, at - start - indent))
  return { text: shown, from: place(from), to: place(to) }
}

/** How far a check is that goes on; null where none does. */
export const progressOf = ({ workspace }: Server): { readonly done: number; readonly total: number } | null =>
  workspace.progress && { done: workspace.progress.done, total: workspace.progress.total }

/** Ends a check that goes on; what was found so far stays known. @returns whether one went on */
export function endCheck({ workspace }: Server): boolean {
  if (!workspace.progress) return false
  workspace.progress.isEnded = true
  return true
}

/** Sets a finding aside while its value stays. @throws ServiceError `not-found` where nothing of the kind is found */
export async function setAside(context: Context, server: Server, subject: string, reason: string, by: string): Promise<void> {
  const { findings } = await workspaceFor(context, server)
  const finding = findings.find((one) => one.subject === subject)
  if (!finding) throw notFound('finding of this kind; its value may be another by now')
  const { file, code } = finding
  await context.asides.save(server.row.id, { subject, path: file, code, reason, by, at: context.now().toISOString() })
  await note(context, by, 'set-aside', `${code} in ${file}: ${reason}`, server)
}

/** Takes a finding up again. @throws ServiceError `not-found` where it was not set aside */
export async function takeUp(context: Context, server: Server, subject: string, by: string): Promise<void> {
  if (!(await context.asides.remove(server.row.id, subject))) throw notFound('finding that was set aside')
  await note(context, by, 'taken-up', subject, server)
}

/** An error that is let through, with why. */
export interface Overruled {
  readonly code: string
  readonly reason: string
}

/** Errors that keep files from being written: those in them that nobody set aside or overrules. */
export async function holding(
  context: Context,
  server: Server,
  paths: readonly string[],
  { findings }: Pick<ServerWorkspace, 'findings'>,
  overruled: readonly Overruled[] = [],
): Promise<PlacedFinding[]> {
  const asides = new Set((await context.asides.list(server.row.id)).map(({ subject }) => subject))
  const codes = new Set(overruled.map(({ code }) => code))
  const asked = new Set(paths)
  return findings.filter(
    ({ severity, file, subject, code }) => severity === 'error' && asked.has(file) && !asides.has(subject) && !codes.has(code),
  )
}

/** @throws ServiceError `has-errors` for files with errors that nobody overrules; then nothing is written */
export async function refuseErrors(
  context: Context,
  server: Server,
  paths: readonly string[],
  overruled: readonly Overruled[],
): Promise<void> {
  const found = await holding(context, server, paths, await workspaceFor(context, server), overruled)
  const [first] = found
  if (!first) return
  const others = found.length > 1 ? ` ${found.length - 1} more like it hold it, too.` : ''
  throw new ServiceError(
    'has-errors',
    422,
    `Line ${first.line} of ${first.file}: ${first.message}${others} Mend it, set it aside, or overrule “${first.code}” by its name. Nothing was written.`,
  )
}
