import { object, string } from 'yup'

const params = object({ id: string().required().max(64) })

/** How far a package has come. */
export default api({ role: 'editor', params }, async ({ context, params: { id }, server }) => context.downloads.get(await server(), id))
