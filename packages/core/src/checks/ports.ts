import { levelOf } from '../rules/rule'
import { defineCheck, type CheckResult } from './check'
import type { PortFact } from './facts'
import { groupedBy } from './grouped'

type Placed = PortFact & { readonly file: string; readonly plugin: string | null }

/** Ports that two listen at, and those that differ from the one they must equal. */
export const portsFit = defineCheck({
  id: 'ports-fit',
  scope: 'server',
  codes: ['port-twice', 'port-differs'],
  *run({ knowledge }, facts) {
    const all = [...facts.values()].flatMap(({ path, plugin, ports }) => ports.map((port): Placed => ({ ...port, file: path, plugin })))
    for (const one of all)
      if (one.sameAs !== null) yield* differing(one, knowledge.ports.find(({ name }) => name === one.sameAs)?.port ?? null)
    const listening = all.filter((one) => !one.isRemote && one.sameAs === null)
    const byPort = groupedBy(listening, ({ port }) => port)
    for (const [port, places] of byPort) {
      const own = knowledge.ports.find((one) => one.port === port)
      if (own) for (const place of places) yield twice(place, `the server’s own ${own.name} port`, [])
      else if (places.length > 1) yield* twiceBySettings(places)
    }
  },
})

function* differing(port: Placed, wanted: number | null): Iterable<CheckResult & { file: string }> {
  if (wanted === null || wanted === port.port) return
  const { file, from, to, source } = port
  yield {
    code: 'port-differs',
    severity: levelOf(source),
    file,
    from,
    to,
    message: `It must be the ${port.sameAs} port of the server, which is ${wanted}, and this is ${port.port}.`,
    cause: `port ${port.sameAs}`,
    fix: { label: String(wanted), edits: [{ from, to, insert: String(wanted) }] },
  }
}

/** Each of those that somebody made is told; where all are as they were shipped, the last. */
function* twiceBySettings(places: readonly Placed[]): Iterable<CheckResult & { file: string }> {
  const made = places.filter(({ isShipped }) => !isShipped)
  for (const place of made.length > 0 ? made : places.slice(-1)) {
    const others = places.filter((other) => other !== place)
    yield twice(place, others.map(({ plugin, file }) => plugin ?? file).join(' and '), others)
  }
}

const twice = ({ file, from, to, port, source }: Placed, who: string, others: readonly Placed[]): CheckResult & { file: string } => ({
  code: 'port-twice',
  severity: levelOf(source),
  file,
  from,
  to,
  message: `Port ${port} is taken by ${who}, and only one of them gets it. Pick another that is free.`,
  cause: `port ${port}`,
  related: others.map((other) => ({
    file: other.file,
    from: other.from,
    to: other.to,
    why: `${other.plugin ?? other.file} listens at ${port} too`,
  })),
})
