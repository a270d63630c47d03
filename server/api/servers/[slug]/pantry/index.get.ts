import { listed } from '../../../../services/sites'

/** The packages kept for this server's family, and what the plugin sites offer. */
export default api({ role: 'viewer' }, async ({ context, server }) => {
  const { family } = await server()
  const packages = (await context.packages.list(family.id)).map(({ id, info, origin, addedAt }) => ({
    id,
    origin,
    addedAt,
    name: info.name,
    version: info.version,
    summary: info.summary,
    game: info.game,
    requires: info.requires,
    authors: info.authors,
  }))
  const sites = await context.offers.list()
  return {
    packages,
    offers: sites
      .flatMap(({ offers }) => offers)
      .filter((offer) => offer.family === '' || offer.family === family.id)
      .map(listed),
    sites: sites.map(({ address, status, problem }) => ({ address, status, problem })),
  }
})
