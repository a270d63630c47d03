/** Something that a group or a player is given, or is denied. */
export interface Grant {
  /** The node, or with `*` many of them, as `hampers.claim.*`; without what marks a denial. */
  readonly node: string
  readonly isDenied: boolean
  /** The setting that says so. */
  readonly pointer: string
  readonly from: number
  readonly to: number
  /** When it ends, as it is written; null for never. */
  readonly until: string | null
  /** Whether it is a text by itself, and no section with more than the node. */
  readonly isPlain: boolean
}

/** Where a group or a player keeps what it is given. */
export interface GrantPlace {
  /** The list of nodes, or the section of nodes that are true or false; where it would be, if it is not there. */
  readonly pointer: string
  readonly shape: 'list' | 'map' | 'missing'
  /** How many entries there are, also such as give nothing. */
  readonly count: number
}

/** A group of players. */
export interface PermissionGroup {
  readonly name: string
  readonly pointer: string
  readonly from: number
  readonly weight: number | null
  readonly prefix: string
  readonly suffix: string
  /** Where weight, prefix and suffix stand, or would. */
  readonly at: { readonly weight: string; readonly prefix: string; readonly suffix: string }
  readonly inherits: readonly { readonly name: string; readonly pointer: string; readonly from: number }[]
  /** The list of those it inherits from; where it would be. */
  readonly inheritsAt: string
  readonly grants: readonly Grant[]
  readonly grantsAt: GrantPlace
}

/** A player that the permission plugin knows. */
export interface PermissionPlayer {
  readonly id: string
  /** Empty where only the id is known. */
  readonly name: string
  readonly pointer: string
  readonly from: number
  readonly groups: readonly string[]
  /** Where the groups stand: a list, one name, or where they would be. */
  readonly groupsAt: { readonly pointer: string; readonly shape: 'list' | 'one' | 'other' | 'missing' }
  readonly grants: readonly Grant[]
  readonly grantsAt: GrantPlace
  readonly isOperator: boolean
}

/** Who has a node without anybody giving it. */
export type ByDefault = 'nobody' | 'everyone' | 'operators'

/** A node that is known. */
export interface PermissionNode {
  readonly node: string
  /** What it is for, in its author’s words; empty where nobody says. */
  readonly says: string
  readonly plugin: string
  readonly byDefault: ByDefault
}

/** What settles where several have a word: the one that is nearest to the player, or any denial. */
export type Wins = 'nearest' | 'denial'

/** Who is given what on a server. */
export interface Permissions {
  readonly groups: readonly PermissionGroup[]
  readonly players: readonly PermissionPlayer[]
  /** The group of those who are in no other; null where there is none. */
  readonly everybody: string | null
  /** Groups in the order of promotion. */
  readonly ladder: readonly { readonly name: string; readonly pointer: string }[]
  readonly wins: Wins
}

/** Where nobody keeps groups. */
export const NO_PERMISSIONS: Permissions = { groups: [], players: [], everybody: null, ladder: [], wins: 'nearest' }

/** Whose rights are asked about. */
export type Subject = { readonly group: string } | { readonly player: string }
