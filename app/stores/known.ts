import { defineStore } from 'pinia'
import { MarkupReader, formOfMost, isOfGame, writeId, type KnownIds } from '@pasticcio/core'
import type { Known } from '~/utils/types'

/** One thing to pick, as it is shown. */
export interface Pick {
  readonly id: string
  readonly name: string
  readonly group: string
}

const NOTHING: Known = {
  registries: {},
  nodes: [],
  ports: [],
  placeholders: [],
  texts: { placeholder: ['{', '}'], lineBreak: null, codes: null, marks: [] },
}
const MOST_RECENT = 8

/** What values of settings are picked from: the lists of the server at hand, its nodes and ports, and what was picked lately. */
export const useKnownStore = defineStore('known', () => {
  const server = useServerStore()
  const known = shallowRef<Known>(NOTHING)
  const recent = useLocalStorage<Record<string, string[]>>('pasticcio-picked', {})
  /** The zone times are typed in; that of this browser until somebody chooses another. */
  const zone = useLocalStorage('pasticcio-zone', Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC')

  const ids = computed<KnownIds>(() =>
    Object.fromEntries(Object.entries(known.value.registries).map(([name, list]) => [name, new Set(list.map(({ id }) => id))])),
  )
  /** Reads texts as players see them. */
  const markup = computed(() => new MarkupReader(known.value.texts))
  /** How texts are written; plain data, which workers take. */
  const texts = computed(() => toRaw(known.value.texts))
  const codes = computed(() => (known.value.texts.codes === null ? null : new RegExp(known.value.texts.codes, 'g')))

  let loadedFor = ''

  /** Reads the lists anew. Where they cannot be had, values are typed. */
  async function load(): Promise<void> {
    const { slug, base } = server
    const now = await callApi<Known>(`${base}/known`).catch(() => NOTHING)
    if (server.slug !== slug) return
    known.value = now
    loadedFor = slug
  }

  /** Resolves when the lists of the server at hand are here. Those that are here already are read anew without waiting. */
  async function ready(): Promise<void> {
    const loading = load()
    if (loadedFor !== server.slug) await loading
  }

  /**
   * What may be picked from a list of the server's, or from the nodes of its plugins.
   * @param like ids of it that stand there: the game's own are written as these are
   */
  function picksOf(registry: string, like: readonly string[] = []): readonly Pick[] {
    if (registry === 'nodes') return known.value.nodes.map(({ id, says, plugin }) => ({ id, name: says, group: plugin }))
    const form = isOfGame(registry) && ids.value[registry] ? formOfMost(ids.value[registry], like) : null
    return (known.value.registries[registry] ?? []).map(({ id, name, group }) => ({
      id: form ? writeId(id, form) : id,
      name: name ?? inWords(id),
      group: group ?? '',
    }))
  }

  function picked(registry: string, id: string): void {
    const before = recent.value[registry] ?? []
    recent.value = { ...recent.value, [registry]: [id, ...before.filter((one) => one !== id)].slice(0, MOST_RECENT) }
  }

  const recentOf = (registry: string): readonly string[] => recent.value[registry] ?? []

  /** The settings that use a port, but for one. */
  const usersOf = (port: number, path: string, pointer: string): Known['ports'] =>
    known.value.ports.filter((used) => used.port === port && !(used.path === path && used.pointer === pointer))

  /** The first port from one on that no setting uses. */
  function nextFree(port: number): number {
    const used = new Set(known.value.ports.map((one) => one.port))
    let next = port
    while (used.has(next) && next < 65535) next++
    return next
  }

  return { known, ids, codes, markup, texts, zone, load, ready, picksOf, picked, recentOf, usersOf, nextFree }
})

const inWords = (id: string): string => {
  const words = id.replace(/[_:.-]+/g, ' ').trim()
  return words.charAt(0).toUpperCase() + words.slice(1)
}
