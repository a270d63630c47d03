import type { Change } from '../formats/reread'
import type { Finding, FindingCode } from '../tree/nodes'
import type { FileFacts } from './facts'
import type { Workspace, WorkspaceFile } from './workspace'

/** Another place that belongs to a finding. */
export interface RelatedPlace {
  readonly file: string
  readonly from: number
  readonly to: number
  /** What it has to do with it, in a few words. */
  readonly why: string
}

/** A finding with the file it is in and the check that made it. */
export interface FileFinding extends Finding {
  readonly file: string
  readonly check: string
  readonly related?: readonly RelatedPlace[]
  /** Where the file is none that was read as settings. */
  readonly line?: number
}

/** What a check gives: the file may be left out where the check looks at one file. */
export type CheckResult = Finding & { readonly file?: string; readonly related?: readonly RelatedPlace[]; readonly line?: number }

interface CheckCommon {
  /** Names the check in findings and in docs. */
  readonly id: string
  /** The codes its findings can have. */
  readonly codes: readonly FindingCode[]
  /** Whether a file with errors of this check is kept from being written; without it they are told and let through. */
  readonly blocks?: boolean
}

/** Looks at each file by itself. */
export interface FileCheck extends CheckCommon {
  readonly scope: 'file'
  run(workspace: Workspace, file: WorkspaceFile): Iterable<CheckResult>
  /** The findings after a part of the file was read again, from those before: for checks that need not look at all of it. */
  again?(workspace: Workspace, file: WorkspaceFile, before: readonly Finding[], changes: readonly Change[] | null): Iterable<Finding>
}

/** Looks at what all files have to do with each other; what that is was read of each file once. */
export interface ServerCheck extends CheckCommon {
  readonly scope: 'server'
  run(
    workspace: Pick<Workspace, 'family' | 'knowledge'>,
    facts: ReadonlyMap<string, FileFacts>,
  ): Iterable<CheckResult & { readonly file: string }>
}

export type Check = FileCheck | ServerCheck

/** A check, with its type kept. */
export function defineCheck<C extends Check>(check: C): C {
  return check
}
