import type { SiteRow } from '../db/repositories/sites'
import type { Context } from './context'
import { ServiceError, notFound } from './errors'
import { note } from './note'

/** The plugin sites there are: those set up outside, and those that were added here. */
export async function sitesOf({ sites, siteRows }: Pick<Context, 'sites' | 'siteRows'>): Promise<readonly SiteRow[]> {
  const outside = sites.map((address): SiteRow => ({ id: null, address, mayBePrivate: true, addedBy: '' }))
  return [...outside, ...(await siteRows.list()).filter(({ address }) => !sites.includes(address))]
}

/** Which hosts may be at addresses of one's own network. */
export async function privateHosts(context: Context): Promise<(host: string) => boolean> {
  const hosts = new Set((await sitesOf(context)).filter(({ mayBePrivate }) => mayBePrivate).map(({ address }) => new URL(address).host))
  return (host) => hosts.has(host)
}

const MOST_SITES = 50

/** Adds a plugin site, by the address its list stands below. @throws ServiceError `bad-link`, `name-taken` */
export async function addSite(context: Context, address: string, mayBePrivate: boolean, by: string): Promise<void> {
  const url = URL.canParse(address) ? new URL(address) : null
  if (!url || !['http:', 'https:'].includes(url.protocol) || url.username !== '' || url.search !== '' || url.hash !== '')
    throw new ServiceError(
      'bad-link',
      400,
      `“${address}” is no address of a site. It looks like https://plugins.example or https://plugins.example/delta.`,
    )
  const clean = url.href.replace(/\/index\.json$/, '').replace(/\/$/, '')
  const there = await sitesOf(context)
  if (there.some((site) => site.address === clean)) throw new ServiceError('name-taken', 409, `${clean} is here already.`)
  if (there.length >= MOST_SITES) throw new ServiceError('bad-input', 409, `There are ${MOST_SITES} sites already. Remove one first.`)
  await context.siteRows.add({ address: clean, mayBePrivate, addedBy: by }, context.now().toISOString())
  await note(context, by, 'add-site', `${clean}${mayBePrivate ? ', which may be private' : ''}`)
  context.offers.forget(clean)
}

/** Removes a plugin site; what came from it stays in the pantry. @throws ServiceError `not-found` */
export async function removeSite(context: Context, id: number, by: string): Promise<void> {
  const site = (await context.siteRows.list()).find((row) => row.id === id)
  if (!site) throw notFound('plugin site with this number')
  await context.siteRows.remove(id)
  await note(context, by, 'remove-site', site.address)
  context.offers.forget(site.address)
}
