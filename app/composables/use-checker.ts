import type { Finding, Reading } from '@pasticcio/core'
import type { CheckAnswer } from '~/workers/check.worker'

/** Findings of a text as it changes; answers to older texts are passed over. */
export function useChecker(
  input: () => { path: string; reading: Reading; text: string; factory: string | null } | null,
): Ref<readonly Finding[]> {
  const findings = shallowRef<readonly Finding[]>([])
  const worker = new Worker(new URL('../workers/check.worker.ts', import.meta.url), { type: 'module' })
  let asked = 0
  worker.onmessage = (event: MessageEvent<CheckAnswer>) => {
    if (event.data.id === asked) findings.value = event.data.findings
  }
  watch(
    input,
    (now) => {
      if (now) worker.postMessage({ id: ++asked, ...now })
      else findings.value = []
    },
    { immediate: true },
  )
  onScopeDispose(() => worker.terminate())
  return findings
}
