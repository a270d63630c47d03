import { object, string } from 'yup'
import { sheetOf } from '../../../../services/rule-sheets'

const query = object({ plugin: string().max(200).required('plugin is missing') }).noUnknown()

/** What people say the settings of a plugin are, as a rule sheet to be kept and shared. */
export default api({ role: 'viewer', query }, async ({ context, query: { plugin }, server }) => sheetOf(context, await server(), plugin))
