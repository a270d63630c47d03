import { checkRules, formatOf, inferRules, parse, type Finding } from '@pasticcio/core'

export interface CheckRequest {
  readonly id: number
  readonly path: string
  readonly text: string
  readonly factory: string | null
}
export interface CheckAnswer {
  readonly id: number
  readonly findings: readonly Finding[]
}

/** Finds mistakes in a draft while somebody types, off the main thread. */
self.addEventListener('message', (event: MessageEvent<CheckRequest>) => {
  const { id, path, text, factory } = event.data
  const format = formatOf(path)
  if (!format) return self.postMessage({ id, findings: [] } satisfies CheckAnswer)
  const document = parse(text, format)
  const rules = factory === null ? [] : inferRules(parse(factory, format, { relaxed: true }))
  self.postMessage({
    id,
    findings: [...document.findings, ...checkRules(document, rules)].sort((a, b) => a.from - b.from),
  } satisfies CheckAnswer)
})
