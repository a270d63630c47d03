import type { ComputedRef } from 'vue'

/**
 * The items of a list as they are here: each change counts at once, also before the file has answered to the one before, so
 * that two that follow quickly are both kept.
 * @param shown what the file has; anything but a list has no items @param give hands a changed list on
 */
export function useItems(
  shown: () => unknown,
  give: (items: readonly string[]) => void,
): { readonly items: ComputedRef<readonly string[]>; set(items: readonly string[]): void } {
  const { typed: held, sent } = useTyped(() => JSON.stringify(textsOf(shown())))
  return {
    items: computed(() => JSON.parse(held.value) as string[]),
    set(items) {
      held.value = JSON.stringify(items)
      sent(held.value)
      give(items)
    },
  }
}

const textsOf = (value: unknown): readonly string[] => (Array.isArray(value) ? value.map(String) : [])
