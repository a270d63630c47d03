import { lookInto, type Knowledge, type LookedFile, type WorkspaceInput } from '@pasticcio/core'

/** What a thread that checks is told: what is known of the server, once, and then files, some at a time. */
export type CheckRequest =
  | { readonly kind: 'knowledge'; readonly knowledge: Knowledge }
  | { readonly kind: 'files'; readonly id: number; readonly files: readonly WorkspaceInput[] }

/** What it answers to files: what was found in each, in their order. */
export interface CheckAnswer {
  readonly id: number
  readonly looked?: readonly LookedFile[]
  readonly error?: string
}

/** Looks into files by what is known of their server. */
export const lookIntoAll = (files: readonly WorkspaceInput[], knowledge: Knowledge): LookedFile[] =>
  files.map((file) => lookInto(file, knowledge))
