import type { Node } from '../tree/nodes'
import { nameWords } from './likeness'

const ABOUT = new Set([
  'config',
  'configuration',
  'setting',
  'file',
  'format',
  'schema',
  'layout',
  'do',
  'not',
  'touch',
  'edit',
  'stamp',
  'internal',
  'plugin',
])

/** Whether a setting is a version stamp: its key is about the version of the file, and its value looks like one. */
export function isStamp(key: string, node: Node): boolean {
  if (node.type !== 'scalar' || node.kind === 'bool' || node.kind === 'null') return false
  if (!/version|revision|ver|stamp/i.test(key)) return false
  const words = nameWords(key)
  const about = words.filter((word) => word !== 'version' && word !== 'revision' && word !== 'ver')
  const stamped = words.length > about.length || words.includes('stamp')
  if (!stamped || !about.every((word) => ABOUT.has(word))) return false
  return node.kind === 'number' || /^[vr]?\d+([.-]\w+)*$/i.test(String(node.value))
}
