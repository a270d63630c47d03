/** What a key does; `false` leaves the key to others. */
export type KeyHandler = (event: KeyboardEvent) => unknown

/** So long the second key of two may take. */
const CHORD_MS = 1500

/** The first key of the two that is waited for, while it is; one for all pages, as there is one keyboard. */
let waiting: { readonly handlers: Readonly<Record<string, KeyHandler>>; readonly until: number } | null = null

/** Commands of two keys, the first of which waits for the second. */
export function chordsOf(first: string, handlers: Readonly<Record<string, KeyHandler>>): Record<string, KeyHandler> {
  return { [first]: (event) => void (waiting = { handlers, until: event.timeStamp + CHORD_MS }) }
}

const FIELDS = 'input:not([type="checkbox"]):not([type="radio"]), textarea, [contenteditable="true"], [role="combobox"], [role="dialog"]'

/** Single-key commands of a page. They rest while somebody types in a field, unless a modifier is held. */
export function useKeys(keys: Readonly<Record<string, KeyHandler>>): void {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => runKey(keys, event))
}

/** Runs what a key stands for, if it stands for something here. */
export function runKey(keys: Readonly<Record<string, KeyHandler>>, event: KeyboardEvent): void {
  const modified = event.ctrlKey || event.metaKey
  const typing = (event.target as HTMLElement | null)?.closest?.(FIELDS)
  if ((typing && !modified) || event.defaultPrevented) return
  const chord = waiting && event.timeStamp <= waiting.until ? waiting.handlers : null
  if (event.key !== 'Shift') waiting = null
  const run = (event.altKey ? undefined : chord?.[event.key]) ?? keys[(event.altKey ? 'alt+' : modified ? 'ctrl+' : '') + event.key]
  if (run && run(event) !== false) event.preventDefault()
}
