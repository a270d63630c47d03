import { wordOf, type PermissionBook } from './book'
import type { Grant, PermissionNode, Subject } from './model'

/** A denial that takes nothing away from anybody. */
export interface IdleDenial {
  readonly group: string
  readonly grant: Grant
}

/** Denials of groups that never count: nobody would have what they deny without them. */
export function idleDenials(book: PermissionBook, nodes: readonly Pick<PermissionNode, 'node'>[]): IdleDenial[] {
  const { groups, players } = book.permissions
  const subjects: readonly Subject[] = [...groups.map(({ name }) => ({ group: name })), ...players.map(({ id }) => ({ player: id }))]
  const grantsOf = new Map(groups.map(({ name, grants }) => [name, grants]))
  const counting = new Set<Grant>()
  /** Whether what stands beside a denial would give what it denies, or what came before already did. */
  const counts = (name: string, grant: Grant, node: string, wasGiven: boolean): boolean => {
    const beside = wordOf(
      (grantsOf.get(name) ?? []).filter((one) => one !== grant),
      node,
    )
    return beside ? !beside.isDenied : wasGiven
  }
  for (const { node } of nodes)
    for (const subject of subjects) {
      const steps = book.trace(subject, node)
      // what is given again behind it takes no notice of a denial
      const last = steps.findLastIndex(({ word }) => word !== null)
      steps.forEach(({ grant, word, speaker, name }, i) => {
        const isLast = i === last || book.permissions.wins === 'denial'
        if (word === 'denied' && grant && speaker === 'group' && isLast && counts(name, grant, node, steps[i - 1]?.may ?? false))
          counting.add(grant)
      })
    }
  return groups.flatMap(({ name, grants }) =>
    grants.flatMap((grant) => (grant.isDenied && !counting.has(grant) ? [{ group: name, grant }] : [])),
  )
}
