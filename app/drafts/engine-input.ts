import type { FileView } from '~/utils/types'
import type { EngineInput } from './engine'

/** What the engine of a file is made of: the file as it is shown, and what is known of the server it is on. */
export function inputFor(path: string, view: FileView, around: Pick<EngineInput, 'known' | 'texts' | 'plugins'>): EngineInput {
  const { rules, others, plugin, reading, draft, text, factory, update, record } = view
  return {
    ...around,
    rules,
    ...(others ? { others } : {}),
    path,
    plugin,
    reading,
    text: draft?.text ?? text,
    base: text,
    factory,
    update: update?.text ?? null,
    checked: !record,
  }
}
