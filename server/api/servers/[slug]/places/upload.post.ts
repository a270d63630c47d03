import { object, string } from 'yup'
import { ServiceError } from '../../../../services/errors'
import { scratchFile } from '../../../../services/pantry'
import { addPlace } from '../../../../services/place-archives'
import { SIZES } from '../../../../services/sizes'

const query = object({ name: string().required().max(100) })

/** Takes an archive as the body of the request, and unpacks it as a place of this name. */
export default api({ role: 'editor', query }, async ({ event, context, account, query: { name }, server }) => {
  const opened = await server()
  const file = scratchFile(context)
  if ((await receiveFile(event, SIZES.package, name, file)) === 0) throw new ServiceError('bad-input', 400, 'The file is empty.')
  return addPlace(context, opened, file, name, account.name)
})
