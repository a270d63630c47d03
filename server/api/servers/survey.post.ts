import { object, string } from 'yup'
import { survey } from '../../services/survey'

const body = object({ folder: folderShape, familyId: string().max(100) }).noUnknown()

/** What lies in a folder that may become a server. */
export default api({ role: 'owner', body }, async ({ context, body: { folder, familyId } }) => survey(context, folder, familyId))
