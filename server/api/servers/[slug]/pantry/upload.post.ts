import { getHeader, readRawBody } from 'h3'
import { object, string } from 'yup'
import { addPackage, refuseLarge } from '../../../../services/pantry'
import { ServiceError } from '../../../../services/errors'

const query = object({ name: string().required().max(200) })

/** Takes a package as the body of the request; `name` is its file name. */
export default api({ role: 'editor', query }, async ({ event, context, account, query: { name }, server }) => {
  const opened = await server()
  refuseLarge(Number(getHeader(event, 'content-length') ?? 0), name)
  const bytes = await readRawBody(event, false)
  if (!bytes) throw new ServiceError('bad-input', 400, 'The file is empty.')
  const { id, info } = await addPackage(context, opened, bytes, name, `uploaded by ${account.name}`, account.name)
  return { id, name: info.name, version: info.version }
})
