import { number, object } from 'yup'
import { economyBefore } from '../../../../services/economy'

const query = object({ change: number().integer().required('change is missing: the number of a change in the history') }).noUnknown()

/** What moved money before a change of the history. */
export default api({ role: 'viewer', query }, async ({ context, query, server }) => economyBefore(context, await server(), query.change))
