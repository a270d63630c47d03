import { object, string } from 'yup'
import { saveFamily } from '../../services/families'

const body = object({ text: string().required().max(200_000) }).noUnknown()

/** Keeps a description: a new family, or one that is here as it is now. */
export default api({ role: 'owner', body }, async ({ context, account, body: { text } }) => saveFamily(context, text, account.name))
