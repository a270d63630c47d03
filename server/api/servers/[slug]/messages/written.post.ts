import { array, object, string } from 'yup'
import { writtenFor } from '../../../../services/messages'

const body = object({
  texts: array(string().max(10_000).defined()).max(100).required('texts is missing: it is what is to be written'),
  family: string().max(100).required('family is missing: it is whose codes are to be written'),
}).noUnknown()

/** Texts of this server as those of another family are written, with what is lost. */
export default api({ role: 'viewer', body }, async ({ context, body: { texts, family }, server }) =>
  writtenFor(context, await server(), texts, family),
)
