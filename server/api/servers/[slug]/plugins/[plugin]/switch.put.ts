import { boolean, object } from 'yup'
import { switchPlugin } from '../../../../../services/switching'

const body = object({ on: boolean().required() }).noUnknown()

/** Switches a plugin on or off without removing it. */
export default api({ role: 'editor', params: pluginParams, body }, async ({ context, account, params, body, server }) =>
  switchPlugin(context, await server(), params.plugin, body.on, account.name),
)
