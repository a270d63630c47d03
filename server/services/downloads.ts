import { createHash, randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { open, rm } from 'node:fs/promises'
import type { PackageRow } from '../db/repositories/packages'
import type { Context, Server } from './context'
import { ServiceError, asServiceError, notFound } from './errors'
import { fetchParts } from './fetching'
import { addPackageFile, scratchFile } from './pantry'
import { writeParts } from './parts'
import { privateHosts } from './plugin-sites'
import { SIZES } from './sizes'

/** What is to be fetched. */
export interface Wanted {
  readonly link: string
  /** What the file's SHA-256 must be, where somebody knows; sites that say it are held to it anyway. */
  readonly sha256?: string | null
}

/** A package on its way into the pantry. */
export interface Download {
  readonly id: string
  readonly link: string
  readonly status: 'fetching' | 'reading' | 'done' | 'failed' | 'cancelled'
  readonly bytes: number
  /** Null where nobody says how large it is. */
  readonly size: number | null
  /** What went wrong; empty for nothing. */
  readonly problem: string
  /** A stable name of it. */
  readonly code: string
  readonly packages: readonly { readonly id: number; readonly name: string; readonly version: string }[]
}

interface Watched {
  readonly signal?: AbortSignal
  readonly progress?: (bytes: number, size: number | null) => void
  /** It came, and is looked into. */
  readonly reading?: () => void
}

const PACKAGE_WITHIN_MS = 10 * 60_000

/**
 * Fetches a package by its link into the pantry. Nothing of it is kept unless it is what it should be: the size and the hash
 * the site said, no web page, and a package. @throws ServiceError
 */
export async function addFromLink(
  context: Context,
  server: Server,
  wanted: Wanted,
  account: string,
  watched: Watched = {},
): Promise<PackageRow[]> {
  const { link } = wanted
  if (!URL.canParse(link)) throw new ServiceError('bad-link', 400, `“${link}” is no link. It begins with https://.`)
  const url = new URL(link)
  const offer = await context.offers.at(url.href)
  const file = scratchFile(context)
  try {
    const bounds = { most: SIZES.package, withinMs: PACKAGE_WITHIN_MS, mayBePrivate: await privateHosts(context) }
    const size = await writeParts(
      fetchParts(url, {
        ...bounds,
        ...(watched.signal ? { signal: watched.signal } : {}),
        ...(watched.progress ? { progress: watched.progress } : {}),
      }),
      file,
    )
    watched.reading?.()
    await refusePage(file, url)
    const said = wanted.sha256 ?? offer?.sha256 ?? null
    if (said !== null && (await hashOfFile(file)) !== said.toLowerCase())
      throw new ServiceError(
        'wrong-hash',
        422,
        `${nameIn(url)} is not the file it should be: its SHA-256 is not ${said}. Nothing was kept. Ask whoever runs the site.`,
      )
    if (offer && offer.size !== null && offer.size !== size)
      throw new ServiceError('wrong-hash', 422, `${nameIn(url)} is ${size} bytes, and the site says ${offer.size}. Nothing was kept.`)
    watched.signal?.throwIfAborted()
    return await addPackageFile(context, server, file, { name: nameIn(url), origin: `from ${url.host}` }, account)
  } catch (error) {
    if (watched.signal?.aborted) throw new ServiceError('cancelled', 409, 'It was cancelled, and nothing was kept.', { cause: error })
    throw error
  } finally {
    await rm(file, { force: true })
  }
}

const nameIn = (url: URL): string => decodedName(url.pathname.split('/').pop() ?? '') || 'package'

function decodedName(part: string): string {
  try {
    return decodeURIComponent(part)
  } catch {
    return part
  }
}

/** A link often leads to a page that has the real link on it. */
async function refusePage(path: string, url: URL): Promise<void> {
  const handle = await open(path)
  try {
    const head = Buffer.alloc(512)
    const { bytesRead } = await handle.read(head, 0, head.length, 0)
    if (/^\uFEFF?\s*<(?:!doctype html|html|head|\?xml[^>]*>\s*<!doctype html)/i.test(head.subarray(0, bytesRead).toString('utf8')))
      throw new ServiceError('bad-link', 422, `${url.href} is a web page. Open it, and copy the link of the download itself.`)
  } finally {
    await handle.close()
  }
}

async function hashOfFile(path: string): Promise<string> {
  const hash = createHash('sha256')
  for await (const part of createReadStream(path)) hash.update(part as Buffer)
  return hash.digest('hex')
}

interface Running {
  state: Download
  readonly serverId: number
  readonly stop: AbortController
}

/** So many are fetched at once, and so many are remembered. */
const MOST_AT_ONCE = 6
const MOST_KEPT = 100

/** Packages that are fetched while somebody watches; each can be cancelled. */
export class Downloads {
  private readonly all = new Map<string, Running>()

  start(context: Context, server: Server, wanted: Wanted, account: string): Download {
    const running = [...this.all.values()].filter(({ state }) => state.status === 'fetching' || state.status === 'reading')
    if (running.length >= MOST_AT_ONCE)
      throw new ServiceError('busy', 429, `${MOST_AT_ONCE} packages are on their way. Wait for one of them.`)
    const id = randomUUID()
    const state: Download = { id, link: wanted.link, status: 'fetching', bytes: 0, size: null, problem: '', code: '', packages: [] }
    const download: Running = { state, serverId: server.row.id, stop: new AbortController() }
    this.all.set(id, download)
    if (this.all.size > MOST_KEPT) this.all.delete(this.all.keys().next().value!)
    void this.run(context, server, wanted, account, download)
    return state
  }

  /** @throws ServiceError `not-found` */
  get(server: Server, id: string): Download {
    return this.require(server, id).state
  }

  /** Gives one up; one that is over stays as it is. @throws ServiceError `not-found` */
  cancel(server: Server, id: string): Download {
    const download = this.require(server, id)
    download.stop.abort()
    return download.state
  }

  /** Gives all of them up, as when Pasticcio stops. */
  close(): void {
    for (const { stop } of this.all.values()) stop.abort()
  }

  private require(server: Server, id: string): Running {
    const found = this.all.get(id)
    if (!found || found.serverId !== server.row.id) throw notFound('download with this number')
    return found
  }

  private async run(context: Context, server: Server, wanted: Wanted, account: string, download: Running): Promise<void> {
    const set = (change: Partial<Download>): void => void (download.state = { ...download.state, ...change })
    try {
      const rows = await addFromLink(context, server, wanted, account, {
        signal: download.stop.signal,
        progress: (bytes, size) => set({ bytes, size }),
        reading: () => set({ status: 'reading' }),
      })
      set({ status: 'done', packages: rows.map(({ id, info }) => ({ id, name: info.name, version: info.version })) })
    } catch (error) {
      const known = asServiceError(error)
      if (!(known instanceof ServiceError)) context.log.error({ error, link: wanted.link }, 'a package was not fetched')
      const { code, message } =
        known instanceof ServiceError ? known : { code: 'failed', message: 'It could not be fetched. The log says more.' }
      set({ status: code === 'cancelled' ? 'cancelled' : 'failed', code, problem: message })
    }
  }
}
