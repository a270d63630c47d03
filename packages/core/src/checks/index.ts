import type { Check, FileFinding } from './check'
import { checkAcross as acrossWith, checkFile as checkOne, inOrder, lookAtFile, type Before, type FindingsByCheck } from './checking'
import { sensibleAmounts } from './amounts'
import { isOpenSomewhere } from './closed'
import { commandsAreThere } from './commands'
import { sensibleTimes } from './durations'
import { hasEffect } from './effect'
import type { FileFacts } from './facts'
import { filesAreThere } from './files'
import { hasForm } from './forms'
import { knownIds } from './ids'
import { keepsRules } from './keeps-rules'
import type { Knowledge } from './knowledge'
import { lookInto as lookWith, type LookedFile } from './look'
import { languagesAgree } from './languages'
import { moneyHolds } from './money'
import { nodesFit } from './permissions'
import { portsFit } from './ports'
import { reads } from './reads'
import { entriesAreThere } from './references'
import { serverIsSound } from './server-wide'
import { knownSettings } from './settings'
import { fitsSlots } from './slots'
import { readsWell } from './texts'
import type { Workspace, WorkspaceFile, WorkspaceInput } from './workspace'

export { defineCheck, type Check, type CheckResult, type FileCheck, type FileFinding, type RelatedPlace, type ServerCheck } from './check'
export { inOrder, listFindings, lookAtFile, type CheckedFile, type FindingsByCheck } from './checking'
export { factsOf, type FileFacts, type GroupFact } from './facts'
export { subjectsOf, type LookedFile } from './look'
export { groupedBy } from './grouped'
export { gives, isForStaff } from './permissions'
export { placeholdersIn } from './texts'
export { NO_KNOWLEDGE, type KnownPlugin, type Knowledge, type OwnPort, type PictureFacts, type ServerFact } from './knowledge'
export { nearest } from './near'
export type { OtherVersions } from './other-versions'
export { isReadable, markupOf, workspaceFile, workspaceOf, type Workspace, type WorkspaceFile, type WorkspaceInput } from './workspace'

/** Every check there is, in the order findings of one place are told. */
export const CHECKS: readonly Check[] = [
  reads,
  keepsRules,
  knownIds,
  fitsSlots,
  hasForm,
  sensibleTimes,
  sensibleAmounts,
  knownSettings,
  hasEffect,
  readsWell,
  isOpenSomewhere,
  filesAreThere,
  commandsAreThere,
  portsFit,
  nodesFit,
  moneyHolds,
  entriesAreThere,
  languagesAgree,
  serverIsSound,
]

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
  const { changed, checks = CHECKS } = options
  const facts = new Map<string, FileFacts>()
  const found: FileFinding[] = []
  for (const [path, file] of workspace.files) {
    const isAsked = changed === undefined || changed.includes(path)
    const looked = lookAtFile(workspace, file, isAsked ? checks : [])
    found.push(...looked.findings)
    if (looked.facts) facts.set(path, looked.facts)
  }
  return inOrder([...found, ...acrossWith(workspace, facts, checks)])
}

/** Reads a settings file, checks it, and keeps what other files have to do with. */
export const lookInto = (input: WorkspaceInput, knowledge: Knowledge): LookedFile => lookWith(input, knowledge, CHECKS)

/** What is wrong across files, from what each of them says. */
export const checkAcross = (workspace: Pick<Workspace, 'family' | 'knowledge'>, files: ReadonlyMap<string, FileFacts>): FileFinding[] =>
  acrossWith(workspace, files, CHECKS)

/** The findings of one file by check; see `checking.ts`. */
export const checkFile = (workspace: Workspace, file: WorkspaceFile, before?: Before): FindingsByCheck =>
  checkOne(workspace, file, CHECKS, before)

const BLOCKING = new Set(CHECKS.filter((check) => check.blocks).map((check) => check.id))

/** Whether a finding keeps its file from being written. This is the one place that says so. */
export function blocksWriting(finding: FileFinding): boolean {
  return finding.severity === 'error' && BLOCKING.has(finding.check)
}
