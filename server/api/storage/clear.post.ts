import { clearStorage } from '../../services/storage'

/** Takes away what is of no use any more. */
export default api({ role: 'owner' }, async ({ context }) => clearStorage(context))
