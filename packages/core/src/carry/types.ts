import type { Reading } from '../formats/reading'
import type { FormatId } from '../tree/nodes'
import type { Reason } from './reasons'

/** What became of one setting. The names are those of docs/carry.md and of the report for machines. */
export type Outcome =
  | 'unchanged'
  | 'kept-mine'
  | 'took-update'
  | 'same-change'
  | 'default-moved'
  | 'kind-changed'
  | 'scale-changed'
  | 'added-by-update'
  | 'kept-addition'
  | 'offered'
  | 'dropped'
  | 'moved'
  | 'kept-aside'
  | 'stays-removed'
  | 'stamp'

/** How much attention a decision asks for: `look` is told and holds nothing; `decide` holds an update until somebody decides. */
export type Weight = 'look' | 'decide'

/** A way to decide: `mine`, `update`, `factory`, `converted`, `keep`, `drop`, or `value` with a value of one's own. */
export type ChoiceId = 'mine' | 'update' | 'factory' | 'converted' | 'keep' | 'drop' | 'value'

export interface Option {
  readonly id: ChoiceId
  /** What the setting would hold; left out where it would be gone. */
  readonly value?: unknown
}

export interface Choice {
  readonly id: ChoiceId
  /** JSON data, for the choice `value`. */
  readonly value?: unknown
}

export interface Decision {
  /** Names the decision in `choices`; the same inputs give the same ids. */
  readonly id: string
  /** JSON Pointer in the result, or in mine if it is not in the result. */
  readonly path: string
  readonly outcome: Outcome
  /** Whether somebody should look: true with either weight. */
  readonly attention: boolean
  readonly weight?: Weight
  readonly factory?: unknown
  readonly mine?: unknown
  readonly update?: unknown
  readonly result?: unknown
  /** Why, in words. */
  readonly reason: string
  /** The same as data: stable codes with what they speak of. */
  readonly because: readonly Reason[]
  /** Where mine has it, when that is another place than `path`. */
  readonly from?: string
  /** The file mine has it in, when that is another one. */
  readonly fromFile?: string
  /** 0 to 1, for settings found again under another name. */
  readonly confidence?: number
  readonly options?: readonly Option[]
  /** The option that was taken, when somebody chose. */
  readonly chosen?: ChoiceId
  /** For comments of mine that were kept aside. */
  readonly comment?: boolean
}

export interface CarryInput {
  /** The factory copy of the version in use; null when it is not known. */
  readonly factory: string | null
  readonly mine: string
  readonly update: string
  readonly format: FormatId
  /** How the platform reads the file; what only a strict reader refuses is carried all the same. */
  readonly reading?: Reading
}

export interface CarryOptions {
  readonly shape?: 'update' | 'mine'
  readonly choices?: Readonly<Record<string, Choice>>
}

export interface CarryResult {
  readonly text: string
  readonly decisions: readonly Decision[]
  /** False when there was no factory copy to tell mine from the plugin's. */
  readonly baseline: boolean
  /** Inputs with errors, which were read as far as possible. */
  readonly broken: readonly ('factory' | 'mine' | 'update')[]
}

/** One of a plugin's settings files. */
export interface PluginFile {
  /** Relative to the plugin's folder, the same in all versions unless the file was renamed. */
  readonly path: string
  readonly text: string
  readonly format: FormatId
  readonly reading?: Reading
}

export interface CarryFilesInput {
  /** The factory copies of the version in use; null when they are not known. */
  readonly factory: readonly PluginFile[] | null
  readonly mine: readonly PluginFile[]
  readonly update: readonly PluginFile[]
}

export interface CarriedFile {
  readonly path: string
  /** The file as it shall be; null when it goes. */
  readonly text: string | null
  /** The file of mine it continues; null for one that is new. */
  readonly from: string | null
  readonly decisions: readonly Decision[]
  readonly broken: CarryResult['broken']
}

export interface CarryFilesResult {
  readonly files: readonly CarriedFile[]
  readonly baseline: boolean
}

export type CustomisationKind = 'changed' | 'added' | 'removed' | 'moved' | 'turned-on' | 'turned-off' | 'comment'

/** One thing that is mine; an item of a list that is `moved` stands elsewhere among the others. `path` is a JSON Pointer in mine, for removed settings in the factory copy. */
export interface Customisation {
  readonly path: string
  readonly kind: CustomisationKind
  readonly factory?: unknown
  readonly mine?: unknown
  readonly from?: string
}
