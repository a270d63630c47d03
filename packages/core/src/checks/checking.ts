import { movedAlong } from '../formats/moved'
import type { Change } from '../formats/reread'
import type { Finding } from '../tree/nodes'
import type { Check, FileCheck, FileFinding } from './check'
import { factsOf, type FileFacts } from './facts'
import { isReadable, type Workspace, type WorkspaceFile } from './workspace'

/** Findings of one file by the check that made them, kept from one keystroke to the next. */
export type FindingsByCheck = ReadonlyMap<string, readonly Finding[]>

/** What was found before a part of a file was read again. */
export interface Before {
  readonly findings: FindingsByCheck
  readonly changes: readonly Change[] | null
  /** Whether there is time to look at all of the file, also by checks that cannot go on from what they found. */
  readonly isAtRest?: boolean
}

const isOfFile = (check: Check): check is FileCheck => check.scope === 'file'

/**
 * The findings of one file by check. With those from before and what was read again, only that is looked at; checks that
 * have to look at all of the file keep what they found, moved along, until there is time for them.
 */
export function checkFile(workspace: Workspace, file: WorkspaceFile, checks: readonly Check[], before?: Before): FindingsByCheck {
  const found = new Map<string, readonly Finding[]>()
  const isRead = isReadable(file)
  for (const check of checks.filter(isOfFile)) {
    // of a file that cannot be read nothing else is told
    if (!isRead && !check.blocks) continue
    const known = before?.findings.get(check.id)
    if (!known || !before) found.set(check.id, [...check.run(workspace, file)])
    else if (check.again) found.set(check.id, [...check.again(workspace, file, known, before.changes)])
    else found.set(check.id, before.changes && !before.isAtRest ? movedAlong(known, before.changes) : [...check.run(workspace, file)])
  }
  return found
}

/** The findings of `checkFile` as a list, each with its file and check. */
export function listFindings(path: string, findings: FindingsByCheck): FileFinding[] {
  return inOrder([...findings].flatMap(([check, list]) => list.map((finding) => ({ ...finding, file: path, check }))))
}

/** Findings in the order of their files, and of their places in these. */
export function inOrder(findings: FileFinding[]): FileFinding[] {
  return findings.sort((a, b) => (a.file === b.file ? a.from - b.from : a.file < b.file ? -1 : 1))
}

/** What was found in one file, and what of it others have to do with; plain data, which can be sent and kept. */
export interface CheckedFile {
  readonly findings: readonly FileFinding[]
  /** Null where the file cannot be read. */
  readonly facts: FileFacts | null
}

/** Looks at one file by itself. */
export function lookAtFile(workspace: Workspace, file: WorkspaceFile, checks: readonly Check[]): CheckedFile {
  return {
    findings: listFindings(file.path, checkFile(workspace, file, checks)),
    facts: isReadable(file) ? factsOf(workspace, file) : null,
  }
}

/** What is wrong across files, from what each of them says. */
export function checkAcross(
  workspace: Pick<Workspace, 'family' | 'knowledge'>,
  files: ReadonlyMap<string, FileFacts>,
  checks: readonly Check[],
): FileFinding[] {
  return inOrder(
    checks.flatMap((check): FileFinding[] =>
      check.scope === 'server' ? [...check.run(workspace, files)].map((finding) => ({ ...finding, check: check.id })) : [],
    ),
  )
}
