import { object, string } from 'yup'
import { notFound } from '../../services/errors'

const query = object({ link: string().required().max(2000) })

/** What there is to read of a package that a plugin site has. */
export default api({ role: 'viewer', query }, async ({ context, query: { link } }) => {
  const offer = await context.offers.at(link)
  if (!offer) throw notFound('package at this link')
  return { readme: offer.readme, changelog: offer.changelog }
})
