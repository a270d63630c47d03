/** Why a decision is as it is: a stable code with what it speaks of. `wordReason` is the only place that words them. */
export type Reason =
  | { readonly code: 'stamp' | 'left-as-shipped' | 'same-change' | 'update-left-it' | 'both-added' | 'no-baseline' | 'default-moved' }
  | { readonly code: 'kind-changed'; readonly from: string; readonly to: string }
  | { readonly code: 'kind-wrapped' | 'kind-fits-nowhere' }
  | { readonly code: 'kind-inner'; readonly key: string }
  | { readonly code: 'unit-changed'; readonly from: string; readonly to: string }
  | { readonly code: 'scale-changed'; readonly before: number; readonly after: number; readonly guess: string }
  | { readonly code: 'respelt'; readonly path: string; readonly file?: string }
  | { readonly code: 'found'; readonly path: string; readonly file?: string; readonly evidence: readonly Evidence[] }
  | { readonly code: 'section-found'; readonly section: string; readonly path: string; readonly file?: string }
  | { readonly code: 'section-is-file'; readonly section: string }
  | { readonly code: 'unsure'; readonly how: 'name' | 'place' | 'likeness' }
  | { readonly code: 'taken-out' | 'gone' | 'gone-changed' | 'removed' | 'removed-changed' | 'left-in' }
  | { readonly code: 'added' | 'switched-on' | 'section-gone' | 'placed-by-guess' }
  | { readonly code: 'name-taken'; readonly path: string }
  | { readonly code: 'cannot-hold'; readonly message: string }
  | { readonly code: 'would-break' }
  | { readonly code: 'list-mine' | 'list-both' | 'list-overlap' | 'order-mine' | 'order-lost' }
  | { readonly code: 'new' | 'new-in-group' | 'offered' | 'new-beside-mine' | 'new-where-removed' }
  | { readonly code: 'comment-homeless' | 'comment-gone' }

/** What speaks for a setting being found again under another name or place. */
export type Evidence = 'same-name' | 'like-name' | 'same-comment' | 'same-default' | 'same-section' | 'same-neighbours' | 'same-change'

const EVIDENCE: Readonly<Record<Evidence, string>> = {
  'same-name': 'the same name',
  'like-name': 'a like name',
  'same-comment': 'the same comment',
  'same-default': 'the same default',
  'same-section': 'the same section',
  'same-neighbours': 'the same neighbours',
  'same-change': 'others changed their names alike',
}

const PLAIN: Readonly<Record<string, string>> = {
  stamp: 'it tells the plugin which version wrote the file, so the update’s stands',
  'left-as-shipped': 'you had left it as the plugin shipped it',
  'same-change': 'the update has what you had set',
  'update-left-it': 'you set it, and the update left it alone',
  'both-added': 'you added it, and so did the update, with another value',
  'no-baseline': 'there is no factory copy to compare with, so yours stands',
  'default-moved': 'the default moved under your value',
  'kind-wrapped': 'yours became its one item',
  'kind-fits-nowhere': 'yours does not fit there and is kept aside',
  'taken-out': 'the update took this entry out, and you had changed it',
  gone: 'the update has it no more',
  'gone-changed': 'the update has it no more, and nothing like it was found',
  removed: 'you removed it',
  'removed-changed': 'you removed it, and the update changed it',
  'left-in': 'you removed it; it is left in until you decide',
  added: 'you added it',
  'switched-on': 'you switched it on',
  'section-gone': 'you added it, and the section it stood in is gone from the update',
  'placed-by-guess': 'its section is elsewhere in the update, so its place is a guess',
  'would-break': 'it could not be written into the new file without breaking it',
  'list-mine': 'you changed the list, and the update left it alone',
  'list-both': 'you both changed the list; your additions and removals were put onto the update’s',
  'list-overlap': 'you both changed the same items of the list',
  'order-mine': 'you changed its order',
  'order-lost': 'you changed its order, which this file cannot be put into',
  new: 'new in the update',
  'new-in-group': 'the update ships a new entry',
  'new-beside-mine': 'the update ships a new entry beside those you added',
  'new-where-removed': 'the update ships something else where you took an entry out',
  offered: 'the update ships a new example entry, and this group is yours; it is left out until you take it',
  'comment-homeless': 'your comment found no place in the new file',
  'comment-gone': 'your comment stood at a setting that is gone',
}

const UNSURE = {
  name: 'it was found again by little: compare it',
  place: 'it was found again only by its place in the list: compare it',
  likeness: 'it was found again only because it is alike: compare it',
} as const

/** The words for one reason, as a clause without a full stop. */
export function wordReason(reason: Reason): string {
  switch (reason.code) {
    case 'kind-changed':
      return `it was ${reason.from} and is now ${reason.to}`
    case 'kind-inner':
      return `its entry ${reason.key} has the old default, so yours went there`
    case 'unit-changed':
      return `it was in ${reason.from}s and is now in ${reason.to}s`
    case 'scale-changed':
      return `its default went from ${reason.before} to ${reason.after}, as from ${reason.guess}`
    case 'respelt':
      return `it is spelt ${whither(reason)} now`
    case 'found':
      return `it seems to be ${whither(reason)} now: ${reason.evidence.map((item) => EVIDENCE[item]).join(', ')}`
    case 'section-found':
      return `its section ${reason.section} is now ${whither(reason)}`
    case 'section-is-file':
      return `its section ${reason.section} is a file of its own now`
    case 'unsure':
      return UNSURE[reason.how]
    case 'name-taken':
      return `the update uses this name for what was ${reason.path}, which you have too`
    case 'cannot-hold':
      return `it cannot be written into the new file: ${reason.message}`
    default:
      return PLAIN[reason.code]!
  }
}

function whither({ path, file }: { path: string; file?: string }): string {
  return path + (file === undefined ? '' : ` in ${file.replace(/^.*\//, '')}`)
}

/** The words for all reasons of a decision. */
export function wordReasons(reasons: readonly Reason[]): string {
  return reasons.map(wordReason).join('; ')
}
