import { nameWords } from '../carry/likeness'
import { getNode } from '../tree/pointer'
import type { ListNode } from '../tree/nodes'
import { defineCheck } from './check'
import { looksOf, textOf, type ValueLook } from './looks'
import type { WorkspaceFile } from './workspace'

const CLOSES = new Set(['closed', 'disabled', 'forbidden', 'blocked', 'without', 'excluded', 'ignored', 'banned'])

/** What is only to be had in places where the same file closes it. */
export const isOpenSomewhere = defineCheck({
  id: 'open-somewhere',
  scope: 'file',
  codes: ['closed-place'],
  *run({ knowledge }, file) {
    const places = knowledge.lists['places']
    if (!places || places.size === 0) return
    const { values, parts } = looksOf(file)
    const closed = values.filter((value) => value.isItem && closes(value) && places.has(value.text))
    if (closed.length === 0) return
    for (const part of parts) {
      const { node, keys, entry } = part
      if (node.type !== 'list' || !entry || keys.length < 2 || part.rule?.registry !== 'places' || closes({ keys: [...keys, '0'] }))
        continue
      yield* shutBy(file, node, closed, nameOf(keys))
    }
    for (const value of values) {
      const place = /^([\p{L}_][\p{L}\p{N}_-]*)[\s,:]+-?\d/u.exec(value.text)?.[1]
      const by = place === undefined ? undefined : closed.find(({ text }) => text === place)
      if (by && !isAuthors(file, by)) yield told(by, nameOf(value.keys))
    }
  },
})

const closes = ({ keys }: { readonly keys: readonly string[] }): boolean => nameWords(keys.at(-2) ?? '').some((word) => CLOSES.has(word))
const nameOf = (keys: readonly string[]): string => keys.at(-2) ?? ''

function* shutBy(
  { document, ...file }: WorkspaceFile,
  list: ListNode,
  closed: readonly ValueLook[],
  name: string,
): Iterable<ReturnType<typeof told>> {
  const named = list.entries.flatMap(({ value }) => (value.type === 'scalar' ? [textOf(document, value)] : []))
  const by = named.map((place) => closed.find(({ text }) => text === place))
  const last = by.find((value) => value && !isAuthors({ document, ...file }, value))
  if (named.length > 0 && by.every((value) => value !== undefined) && last) yield told(last, name)
}

/** Whether the author closes the place too, so that what is there is meant to be. */
function isAuthors({ factory }: WorkspaceFile, { keys, text }: ValueLook): boolean {
  const list = factory && getNode(factory, keys.slice(0, -1))
  return list?.type === 'list' && list.entries.some(({ value }) => value.type === 'scalar' && textOf(factory!, value) === text)
}

const told = ({ keys, text, node }: ValueLook, name: string) => ({
  code: 'closed-place' as const,
  severity: 'warning' as const,
  from: node.from,
  to: node.to,
  message: `${name} is only to be had in ${text}, which ${keys.at(-2)} names too, so that nobody can. Take ${text} out of one of the two.`,
  cause: `closed ${text}`,
})
