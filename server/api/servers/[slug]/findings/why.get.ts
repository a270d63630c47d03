import { object, string } from 'yup'
import { whyNot } from '../../../../services/why'

const query = object({
  plugin: string().max(200).required('plugin is missing'),
  feature: string().max(1000).default(''),
  group: string().max(200).default(''),
}).noUnknown()

/** What a helper would ask where a plugin, or one entry of it, does not work, each answered. */
export default api({ role: 'viewer', query }, async ({ context, query, server }) => whyNot(context, await server(), query))
