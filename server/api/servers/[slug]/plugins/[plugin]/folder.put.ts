import { object, string } from 'yup'
import { renameFolder } from '../../../../../services/switching'

const body = object({ folder: string().required().max(100) }).noUnknown()

/** Renames a plugin's folder, and what the server knows it by. */
export default api({ role: 'editor', params: pluginParams, body }, async ({ context, account, params, body, server }) =>
  renameFolder(context, await server(), params.plugin, body.folder, account.name),
)
