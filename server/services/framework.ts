import { frameworkAction, readingFor, resolveAction, type InstallProblem, type PlanPart, type TextAction } from '@pasticcio/core'
import type { Server } from './context'
import { SIZES } from './sizes'
import { decode } from './text'

/** Whether what loads plugins is switched on. */
export interface FrameworkState<Part = PlanPart> {
  /** Null where the family needs none. */
  readonly isOn: boolean | null
  readonly says: string
  /** What switches it on, where that is to be done. */
  readonly part: Part | null
}

/** @param switchOn whether it shall be switched on, instead of being a problem */
export async function frameworkOf(
  server: Server,
  switchOn: boolean,
): Promise<FrameworkState & { readonly problems: readonly InstallProblem[] }> {
  const { framework } = server.family
  if (!framework) return { isOn: null, says: '', part: null, problems: [] }
  const { file, says } = framework
  const action = frameworkAction(framework)
  const bytes = await server.place.read(file, SIZES.settings)
  const text = bytes ? decode(file, bytes) : null
  if (text !== null && resolveAction(action, text, readingFor(file, server.family)) === text)
    return { isOn: true, says, part: null, problems: [] }
  const part: PlanPart = { kind: 'register', path: file, from: null, of: null, actions: [action], because: says, skipped: '' }
  if (switchOn) return { isOn: false, says, part, problems: [] }
  const message = `${says} is switched off: ${file} does not say ${what(action)}. Switch it on along with this.`
  return { isOn: false, says, part: null, problems: [{ code: 'framework-off', severity: 'error', message }] }
}

const what = (action: TextAction): string =>
  action.kind === 'line' ? `“${action.line}”` : action.kind === 'entry' ? `${action.at.join('.')}: ${JSON.stringify(action.value)}` : ''
