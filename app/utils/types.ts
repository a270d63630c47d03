/** Shapes of the API's answers, taken from the services that make them. */
export type { StagedCommand } from '../../server/db/repositories/commands'
export type { ShownCommand } from '../../server/services/history'
export type { TrayFile, TrayText } from '../../server/services/tray'
export type { DraftView, FileView } from '../../server/services/settings'
export type { NamedFile, NamedFiles } from '../../server/services/named-files'
export type { PictureFacts } from '../../server/services/pictures'
export type { Known, UsedPort } from '../../server/services/known'
export type { Overview, PluginSummary, FileSummary } from '../../server/services/overview'
export type { HouseServer, HouseAbout } from '../../server/services/house'
export type { Load, LoadMark, PluginLoad } from '../../server/services/load'
export type { PluginRun } from '../../server/services/runs'
export type { UpdatePlan, PlanFile } from '../../server/services/updates'
export type { HistoryRow, ChangedFile } from '../../server/services/history'
export type { ApplyRow, Complaint } from '../../server/db/repositories/applies'
export type { NumberedLine, ServerState } from '../../server/consoles'
export type { Survey, SurveyedPlugin } from '../../server/services/survey'
export type { Try, TryStep } from '../../server/services/tries'
export type { Offer as Invited } from '../../server/services/people'
export type { Person, Role } from '../../server/db/repositories/accounts'
export type { Invitation } from '../../server/db/repositories/invitations'
export type { ServerSummary } from '../../server/services/servers'
export type { Download } from '../../server/services/downloads'
import type { ListedOffer as SiteOffer, SiteState } from '../../server/services/sites'
export type { SiteOffer, SiteState }
export type { CopiedTo, GroupFound, ReferencesTo, ShownMisfit, ShownReference } from '../../server/services/entries'
export type { SavedDraft } from '../../server/services/drafts'
export type { StorageSizes, Cleared } from '../../server/services/storage'
export type { PlacingPlan, ShownPart, ShownStep } from '../../server/services/placing'
export type { AddedPlace, Places } from '../../server/services/place-archives'
export type { RemovalPlan } from '../../server/services/removing'
export type { Task } from '../../server/services/tasks'
export type { FamilySummary, FamilyTrial, FamilyView } from '../../server/services/families'
export type { Findings as FindingsAnswer, ShownFinding as ServerFinding } from '../../server/services/findings'
export type { SheetFile as RuleSheetFile } from '../../server/services/rule-sheets'
export type { Messages as MessagesAnswer, ShownMessage } from '../../server/services/messages'
export type { LanguageShown, LanguagesShown, ServerLanguage } from '../../server/services/languages'
export type { ServerEconomy } from '../../server/services/economy'
export type { AssumedRow } from '../../server/db/repositories/assumptions'
export type { ServerPermissions, ShownNode } from '../../server/services/permissions'
export type { ShownBook, ShownPicture } from '../../server/services/papers'
export type { WhyAnswer, WhyNot } from '../../server/services/why'
export type { Decision, FamilyFault, Option, Choice } from '@pasticcio/core'

/** What a package has for people to read, and what it says of itself. */
export interface PackageDocuments {
  readonly readme: string
  readonly changelog: string
  readonly summary: string
  readonly changes: string
  readonly nodes: Readonly<Record<string, string>>
  readonly commands: Readonly<Record<string, string>>
  readonly placeholders: Readonly<Record<string, string>>
}

export interface PantryPackage {
  readonly id: number
  readonly name: string
  readonly version: string
  readonly summary: string
  readonly game: string
  readonly requires: Readonly<Record<string, string>>
  readonly authors: readonly string[]
  readonly origin: string
  readonly addedAt: string
}

/** A plugin site on the page of all of them. */
export interface ShownSite extends Omit<SiteState, 'offers'> {
  readonly offers: readonly SiteOffer[]
}
