import type { Change } from '../formats/reread'
import type { Finding } from '../tree/nodes'
import type { Check, FileCheck, FileFinding } from './check'
import { keepsRules } from './keeps-rules'
import { reads } from './reads'
import type { Workspace, WorkspaceFile } from './workspace'

export { defineCheck, type Check, type CheckResult, type FileCheck, type FileFinding, type RelatedPlace, type ServerCheck } from './check'
export { workspaceFile, workspaceOf, type Workspace, type WorkspaceFile, type WorkspaceInput } from './workspace'

/** Every check there is, in the order findings of one place are told. */
export const CHECKS: readonly Check[] = [reads, keepsRules]

export interface CheckOptions {
  /** Files that checks of single files look at; all of them without it. Checks of the whole server always look at all. */
  readonly changed?: readonly string[]
  readonly checks?: readonly Check[]
}

/**
 * Everything that is wrong in a workspace, by file and place. The browser, the overview, the gate in front of writing
 * and the command line all ask here.
 */
export function checkWorkspace(workspace: Workspace, options: CheckOptions = {}): FileFinding[] {
  const { changed = [...workspace.files.keys()], checks = CHECKS } = options
  const files = changed.map((path) => workspace.files.get(path)).filter((file) => file !== undefined)
  const found = checks.flatMap((check): FileFinding[] => {
    if (check.scope === 'server') return [...check.run(workspace)].map((finding) => ({ ...finding, check: check.id }))
    return files.flatMap((file) => [...check.run(workspace, file)].map((finding) => ({ file: file.path, ...finding, check: check.id })))
  })
  return inOrder(found)
}

/** Findings of one file by the check that made them, kept from one keystroke to the next. */
export type FindingsByCheck = ReadonlyMap<string, readonly Finding[]>

/** The findings of one file by check; with those from before and what was read again, only that is looked at. */
export function checkFile(
  workspace: Workspace,
  file: WorkspaceFile,
  before?: { readonly findings: FindingsByCheck; readonly changes: readonly Change[] | null },
  checks: readonly Check[] = CHECKS,
): FindingsByCheck {
  const one = checks.filter((check): check is FileCheck => check.scope === 'file')
  return new Map(
    one.map((check) => {
      const known = before?.findings.get(check.id)
      return [check.id, [...(known && check.again ? check.again(file, known, before!.changes) : check.run(workspace, file))]]
    }),
  )
}

/** The findings of `checkFile` as a list, each with its file and check. */
export function listFindings(path: string, findings: FindingsByCheck): FileFinding[] {
  return inOrder([...findings].flatMap(([check, list]) => list.map((finding) => ({ ...finding, file: path, check }))))
}

function inOrder(findings: FileFinding[]): FileFinding[] {
  return findings.sort((a, b) => (a.file === b.file ? a.from - b.from : a.file < b.file ? -1 : 1))
}

const BLOCKING = new Set(CHECKS.filter((check) => check.blocks).map((check) => check.id))

/** Whether a finding keeps its file from being written. This is the one place that says so. */
export function blocksWriting(finding: FileFinding): boolean {
  return finding.severity === 'error' && BLOCKING.has(finding.check)
}
