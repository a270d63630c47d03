import { object, string } from 'yup'
import { trayText } from '../../../../services/tray'

const query = object({ path: string().required() })

/** One staged file: what it was made from, the draft, and what stands on the server if that changed. */
export default api({ role: 'viewer', query }, async ({ context, query: { path }, server }) => trayText(context, await server(), path))
