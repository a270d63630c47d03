import type { Ref } from 'vue'

/**
 * What is typed into a control. The file answers a moment later, and an answer to what was typed before must not undo what was
 * typed since; what comes from elsewhere, as an undo does, is shown.
 * @param shown what the file has
 */
export function useTyped(shown: () => string): { readonly typed: Ref<string>; sent(text: string): void } {
  const typed = ref(shown())
  let waiting: string[] = []
  watch(shown, (now) => {
    const at = waiting.indexOf(now)
    if (at < 0) typed.value = now
    waiting = at < 0 ? [] : waiting.slice(at + 1)
  })
  return { typed, sent: (text) => void waiting.push(text) }
}
