import type { Overview } from './utils/types'

/** What a station says beside its name in the spine. */
export interface Badge {
  readonly text: string
  /** Whether it tells of an update, which has a colour of its own. */
  readonly update?: boolean
  /** Marks with how many there are of each. */
  readonly errors?: number
  readonly warnings?: number
}

/** One place of work on a server: a page, an entry here, and a folder of components. */
export interface Station {
  /** Names the page below the server's own address. */
  readonly id: string
  readonly title: string
  /** The key that leads there, after `g`. */
  readonly key: string
  /** Where it leads, below the server's own address; the page itself without it. */
  readonly to?: (overview: Overview | null) => string
  readonly badge?: (overview: Overview | null) => Badge | null
}

const counted = (count: number): Badge | null => (count > 0 ? { text: String(count) } : null)

/** The stations in the order of the work: spine, frame and the list of keys show these. */
export const STATIONS: readonly Station[] = [
  { id: 'plugins', title: 'Plugins', key: 'p', badge: (overview) => counted(overview?.plugins.length ?? 0) },
  {
    id: 'settings',
    title: 'Settings',
    key: 's',
    to: (overview) => {
      const first = overview?.plugins.flatMap((plugin) => plugin.files).find((file) => !file.record)
      return first ? `settings/${encodePath(first.path)}` : 'settings'
    },
    badge: (overview) => (overview && overview.staged > 0 ? { text: `${overview.staged} staged` } : null),
  },
  { id: 'messages', title: 'Messages', key: 'm' },
  { id: 'permissions', title: 'Permissions', key: 'r' },
  { id: 'economy', title: 'Economy', key: 'e' },
  {
    id: 'findings',
    title: 'Findings',
    key: 'f',
    badge: (overview) => {
      const files = overview?.plugins.flatMap((plugin) => plugin.files) ?? []
      const of = (kind: 'errors' | 'warnings'): number => files.reduce((sum, file) => sum + file[kind], 0)
      return of('errors') + of('warnings') > 0 ? { text: '', errors: of('errors'), warnings: of('warnings') } : null
    },
  },
  {
    id: 'updates',
    title: 'Updates',
    key: 'u',
    badge: (overview) => {
      const count = overview?.plugins.filter((plugin) => plugin.update).length ?? 0
      return count > 0 ? { text: String(count), update: true } : null
    },
  },
  { id: 'history', title: 'History', key: 'h' },
  { id: 'server', title: 'Server', key: 'v' },
]

/** A path as part of an address: each of its parts encoded. */
export function encodePath(path: string): string {
  return path.split('/').map(encodeURIComponent).join('/')
}

/** The full address of a station of a server. */
export function stationAddress(station: Station, home: string, overview: Overview | null): string {
  return `${home}/${station.to?.(overview) ?? station.id}`
}

/** The station that an address belongs to. */
export function stationAt(path: string, home: string): Station | null {
  return STATIONS.find(({ id }) => path === `${home}/${id}` || path.startsWith(`${home}/${id}/`)) ?? null
}
