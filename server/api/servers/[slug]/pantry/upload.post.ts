import { object, string } from 'yup'
import { addPackageFile, scratchFile } from '../../../../services/pantry'
import { ServiceError } from '../../../../services/errors'
import { SIZES } from '../../../../services/sizes'

const query = object({ name: string().required().max(200) })

/** Takes a package, or a download of several, as the body of the request; `name` is its file name. */
export default api({ role: 'editor', query }, async ({ event, context, account, query: { name }, server }) => {
  const opened = await server()
  const file = scratchFile(context)
  if ((await receiveFile(event, SIZES.package, name, file)) === 0) throw new ServiceError('bad-input', 400, 'The file is empty.')
  const rows = await addPackageFile(context, opened, file, { name, origin: `uploaded by ${account.name}` }, account.name)
  return rows.map(({ id, info }) => ({ id, name: info.name, version: info.version }))
})
