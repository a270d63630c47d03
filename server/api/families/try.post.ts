import { object, string } from 'yup'
import { tryFamily } from '../../services/families'

const body = object({ text: string().required().max(200_000), server: string().required() }).noUnknown()

/** What a description finds on a server of ours; nothing is kept. */
export default api({ role: 'owner', body }, async ({ context, body: { text, server } }) => tryFamily(context, text, server))
