import { amountOf } from '../tree/compare'
import type { Document } from '../tree/nodes'
import { locate } from '../tree/pointer'
import { neededKeys } from '../rules/needs'
import type { Need } from '../rules/rule'
import { defineCheck } from './check'
import { looksOf, textOf, type ValueLook } from './looks'
import type { Workspace, WorkspaceFile } from './workspace'

/** Settings that somebody made and that do nothing, since what they need is off or not there. */
export const hasEffect = defineCheck({
  id: 'has-effect',
  scope: 'file',
  codes: ['without-effect', 'needs-plugin'],
  *run(workspace, file) {
    for (const value of looksOf(file).values) {
      if (value.isShipped || isOff(file.document, value) || !value.rule?.needs) continue
      for (const need of value.rule.needs) {
        const missing = isMissing(need, value, workspace, file)
        if (!missing) continue
        const { from, to } = value.node
        yield { code: 'plugin' in need ? 'needs-plugin' : 'without-effect', severity: 'warning', from, to, message: missing }
        break
      }
    }
  },
})

/** Whether it asks for nothing: off, nothing, or empty. */
const isOff = (document: Document, { node, text }: ValueLook): boolean =>
  text === '' || node.value === false || node.value === null || amountOf(document, node) === 0

const bare = (name: string): string => name.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '')

/** Why what it needs is not so, with the next step; null where it is, or where nobody knows. */
function isMissing(need: Need, { entry, keys, text }: ValueLook, { knowledge }: Workspace, { document }: WorkspaceFile): string | null {
  if ('plugin' in need) {
    if (need.for !== undefined && need.for !== text) return null
    const there = knowledge.plugins.find(({ name }) => bare(name) === bare(need.plugin))
    if (knowledge.plugins.length === 0 || (there && !there.isOff)) return null
    const how = there ? 'is switched off' : 'is not on this server'
    return `“${entry.key}” needs ${need.plugin}, which ${how}. ${there ? 'Switch it on' : 'Install it'}, or leave this as it was.`
  }
  const wanted = neededKeys(need.setting, keys)
  const node = wanted && locate(document, wanted)?.entry.value
  if (!wanted || node?.type !== 'scalar' || wanted.join('/') === keys.join('/')) return null
  if (textOf(document, node).toLowerCase() === String(need.is).toLowerCase()) return null
  return `“${entry.key}” does nothing while ${wanted.at(-1)} is ${textOf(document, node) || 'empty'}. Set ${wanted.at(-1)} to ${need.is}.`
}
