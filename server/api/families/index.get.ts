import { listFamilies } from '../../services/families'

/** The families that are described here. */
export default api({ role: 'viewer' }, async ({ context }) => listFamilies(context))
