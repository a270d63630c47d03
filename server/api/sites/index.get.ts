import { listed } from '../../services/sites'

/** The plugin sites with what each has; what there is to read of a package is asked for by its link. */
export default api({ role: 'viewer' }, async ({ context }) =>
  (await context.offers.list()).map((site) => ({ ...site, offers: site.offers.map(listed) })),
)
