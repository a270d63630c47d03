import { checkRules, formatOf, inferRules, parse, type Finding, type Reading } from '@pasticcio/core'

export interface CheckRequest {
  readonly id: number
  readonly path: string
  readonly reading: Reading
  readonly text: string
  readonly factory: string | null
}
export interface CheckAnswer {
  readonly id: number
  readonly findings: readonly Finding[]
}

/** Finds mistakes in a draft while somebody types, off the main thread. */
self.addEventListener('message', (event: MessageEvent<CheckRequest>) => {
  const { id, path, reading, text, factory } = event.data
  const format = formatOf(path)
  if (!format) return self.postMessage({ id, findings: [] } satisfies CheckAnswer)
  const document = parse(text, format, reading)
  const rules = factory === null ? [] : inferRules(parse(factory, format, reading))
  self.postMessage({
    id,
    findings: [...document.findings, ...checkRules(document, rules)].sort((a, b) => a.from - b.from),
  } satisfies CheckAnswer)
})
