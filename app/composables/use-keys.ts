/** What a key does; `false` leaves the key to others. */
type KeyHandler = (event: KeyboardEvent) => unknown

/** Single-key commands of a page. They rest while somebody types in a field, unless a modifier is held. */
export function useKeys(keys: Readonly<Record<string, KeyHandler>>): void {
  const onKey = (event: KeyboardEvent): void => {
    const target = event.target as HTMLElement | null
    const modified = event.ctrlKey || event.metaKey
    const typing = target?.closest(
      'input:not([type="checkbox"]):not([type="radio"]), textarea, [contenteditable="true"], [role="combobox"], [role="dialog"]',
    )
    if ((typing && !modified) || event.altKey || event.defaultPrevented) return
    const run = keys[(modified ? 'ctrl+' : '') + event.key]
    if (!run) return
    if (run(event) !== false) event.preventDefault()
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
}
