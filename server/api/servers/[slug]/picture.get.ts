import { boolean, object, string } from 'yup'
import { readPicture } from '../../../services/named-files'

const query = object({ path: string().required(), standing: boolean().default(false) })

/** A picture of the server, as it is staged, or with `standing` as it is now. What is no picture is not given out. */
export default api({ role: 'viewer', query }, async ({ event, context, query: { path, standing }, server }) => {
  const { bytes, facts } = await readPicture(context, await server(), path, standing)
  setResponseHeader(event, 'content-type', `image/${facts.kind === 'jpg' ? 'jpeg' : facts.kind}`)
  return bytes
})
