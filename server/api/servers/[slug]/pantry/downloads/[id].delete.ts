import { object, string } from 'yup'

const params = object({ id: string().required().max(64) })

/** Gives up fetching a package. */
export default api({ role: 'editor', params }, async ({ context, params: { id }, server }) => context.downloads.cancel(await server(), id))
