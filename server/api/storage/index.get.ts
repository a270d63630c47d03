import { storageSizes } from '../../services/storage'

/** What Pasticcio's data take on the disk. */
export default api({ role: 'owner' }, async ({ context }) => storageSizes(context))
