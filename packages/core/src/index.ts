/** The public face of the core: pure functions over texts and trees, no files, no network, no clock. */
export { applyEdits, invertEdits, trimEdit, type Edit } from './text/edits'
export { LineIndex, type Position } from './text/lines'
export * from './tree/nodes'
export { formatPointer, getEntry, getNode, locate, parsePointer } from './tree/pointer'
export { amountOf, kindOf, sameNode } from './tree/compare'
export { eachSetting } from './tree/each'
export { CodeText, NumberText, fromJson, readTyped, toJson, valueOf, type Value } from './tree/values'
export { readsAlone, reread, rereadInPlace, type Change, type Reread } from './formats/reread'
export { FORMAT_IDS, formatOf, formatOrText, isPlainText, parse, parseLike, readingFor } from './formats/registry'
export { LENIENT, UNSAID, lenient, type Reading } from './formats/reading'
export { OperationError } from './formats/error'
export { addEntry, duplicateEntry, editDocument, moveEntry, removeEntry, reorderEntries, renameEntry, setValue } from './formats/operations'
export { commentedOut, turnOff, turnOn, type OffSetting } from './formats/commented'
export { carry } from './carry/carry'
export { carryFiles } from './carry/carry-files'
export { mergeEdits, type Edited } from './carry/merge-edits'
export { layer } from './carry/layer'
export { findMoves } from './carry/moves'
export { isGroup } from './carry/groups'
export { nameWords } from './carry/likeness'
export { bareComment } from './carry/index-tree'
export type {
  CarriedFile,
  CarryFilesInput,
  CarryFilesResult,
  CarryInput,
  CarryOptions,
  CarryResult,
  Choice,
  PluginFile,
  ChoiceId,
  Customisation,
  CustomisationKind,
  Decision,
  Option,
  Outcome,
} from './carry/types'
export {
  APPLIES,
  ROLES,
  MEANINGS,
  mergeRules,
  readRule,
  type Applies,
  type Meaning,
  type Need,
  type Role,
  type Rule,
  type RuleSource,
  type SaidValue,
} from './rules/rule'
export { movedAlong } from './formats/moved'
export { MOMENTS, SURFACES, type Dress, type Message, type Moment, type SurfaceId, type Turn } from './messages/message'
export { messagesIn } from './messages/find'
export { pagesOf, type PageSize } from './messages/pages'
export type { NamedFact } from './messages/named'
export * from './languages'
export * from './economy'
export type { TextAround } from './checks/written'
export * from './permissions'
export { escaped } from './text/patterns'
export { RuleBook } from './rules/book'
export { neededKeys } from './rules/needs'
export { formOfMost, isOfGame, writeId, writtenId } from './rules/id-forms'
export { appliesOf, asksMore, type AppliesBy } from './rules/applies'
export { RuleSheetError, readRuleSheet, writeRuleSheet, type RuleSheet } from './rules/sheet'
export { readDescription } from './rules/description'
export { notSet, type NotSet } from './rules/off'
export { inferRules, type KnownIds } from './rules/infer'
export { DOTS } from './rules/dots'
export { SecretMask } from './rules/secrets'
export { isVector } from './rules/infer/places'
export { SECONDS, readSpelledTime, readableUnit, spellTime, timeUnit, type SpelledTime } from './rules/units'
export { checkRules, recheckRules } from './rules/check'
export {
  CHECKS,
  NO_KNOWLEDGE,
  type OtherVersions,
  blocksWriting,
  checkAcross,
  checkFile,
  checkWorkspace,
  defineCheck,
  factsOf,
  inOrder as findingsInOrder,
  listFindings,
  gives,
  isForStaff,
  groupedBy,
  lookInto,
  placeholdersIn,
  subjectsOf,
  workspaceFile,
  workspaceOf,
  markupOf,
  nearest,
  type Check,
  type CheckedFile,
  type FileFacts,
  type GroupFact,
  type FileFinding,
  type FindingsByCheck,
  type Knowledge,
  type LookedFile,
  type KnownPlugin,
  type OwnPort,
  type PictureFacts,
  type RelatedPlace,
  type ServerFact,
  type Workspace,
  type WorkspaceFile,
  type WorkspaceInput,
} from './checks'
export { CAUSES, type Cause } from './checks/causes'
export { asKnown, groupsPlace, ownPorts, readFiles, readServer, type ServerFiles, type ServerSource } from './checks/read-server'
export { idsByList, listedFolders, listedInText, type Listed, type RegistryName } from './families/registries'
export { gameVersionIn } from './families/game-version'
export { serverFacts, textsAsked, type LyingPlugin, type ServerLook, type Stranger } from './families/server-facts'
export { authorsComment, saidAbout } from './rules/comments'
export { plainLabel } from './rules/words'
export { FamilyError, fillIn, readFamily, type Family, type FamilyFault, type Piece } from './families/family'
export {
  PackageError,
  aboutSchema,
  isOfInterest,
  nameOnDisk,
  readAbout,
  readPackage,
  readSingleFile,
  type PackageAbout,
  type PackageInfo,
} from './families/package-info'
export { isLeftOver, looksLike, packagesIn, type PackageSpot } from './families/find-packages'
export { isTextAction, isResolved, resolveAction, type Content, type FileAction, type TextAction } from './families/actions'
export { folderPattern } from './families/arrangements/unpacked'
export { arrangementOf, type Arrangement, type FoundPlugin } from './families/arrangements'
export { inNamedProfile, mayNameProfile } from './families/profile'
export { LIKELY, recogniseFamilies, type FamilyEvidence } from './families/recognise'
export { dataFolder, nameOf, pathOf, patternsFor, placedByName, wordsFor, type Placed } from './families/folders'
export {
  inOrder,
  planInstall,
  type InstallPlan,
  type InstallProblem,
  type InstallStep,
  type Offer,
  type PresentPlugin,
} from './families/plan-install'
export { matchesPiece, sharedFilesOf } from './families/pieces'
export { inverseOf, planParts, frameworkAction, registrationsOf, type PackageContent, type PlanPart } from './families/plan-parts'
export { costOf, LEAST_SAMPLES, SETTLES_WITHIN, WINDOW, type Cost, type LoadSample, type NoCost } from './load/cost'
export { ConsoleReader, type ConsoleEvent, type ConsoleLine } from './families/console'
export * from './values'
export * from './ledger'
export * from './entries'
