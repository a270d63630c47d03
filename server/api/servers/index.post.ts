import { boolean, string } from 'yup'
import { addServer } from '../../services/servers'

const body = setupShape
  .shape({ slug: slugShape, tried: string().max(100).nullable().default(null), untried: boolean().default(false) })
  .noUnknown()

/** Adds a server that was tried. */
export default api({ role: 'owner', body }, async ({ context, account, body: setup }) => {
  const { row } = await addServer(context, setup, account)
  return { slug: row.slug }
})
