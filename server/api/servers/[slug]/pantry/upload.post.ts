import { readRawBody } from 'h3'
import { addPackage } from '../../../../services/pantry'
import { ServiceError } from '../../../../services/errors'

/** Takes a package as the body of the request; `name` is its file name. */
export default api({ role: 'editor' }, async ({ event, context, account, query, server }) => {
  const bytes = await readRawBody(event, false)
  if (!bytes) throw new ServiceError('bad-input', 400, 'The file is empty.')
  const { id, info } = await addPackage(context, await server(), bytes, query('name'), `uploaded by ${account.name}`, account.name)
  return { id, name: info.name, version: info.version }
})
