import { Words, wordOf, type PermissionBook } from './book'
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
  const grantsOf = new Map(groups.map(({ name, grants }) => [name, book.inForce(grants)]))
  const counting = new Set<Grant>()
  /** Whether what stands beside a denial would give what it denies, or what came before already did. */
  const counts = (name: string, grant: Grant, node: string, wasGiven: boolean): boolean => {
    const beside = wordOf(
      (grantsOf.get(name) ?? []).filter((one) => one !== grant),
      node,
    )
    return beside ? !beside.isDenied : wasGiven
  }
  for (const { name, grants } of groups) {
    const denials = book.inForce(grants).filter(({ isDenied }) => isDenied)
    if (denials.length === 0) continue
    const isDenied = new Words(denials)
    const heard = subjects.filter((subject) => book.hears(subject, name))
    for (const { node } of nodes) {
      if (!isDenied.of(node)) continue
      for (const subject of heard) {
        const steps = book.trace(subject, node)
        // what is given again behind it takes no notice of a denial
        const last = book.permissions.wins === 'denial' ? -1 : steps.findLastIndex(({ word }) => word !== null)
        steps.forEach((step, i) => {
          const isHere = step.speaker === 'group' && step.name === name && step.word === 'denied' && (last < 0 || i === last)
          if (isHere && counts(name, step.grant!, node, steps[i - 1]?.may ?? false)) counting.add(step.grant!)
        })
      }
    }
  }
  return groups.flatMap(({ name, grants }) =>
    grants.flatMap((grant) => (grant.isDenied && !counting.has(grant) && book.inForce([grant]).length > 0 ? [{ group: name, grant }] : [])),
  )
}
