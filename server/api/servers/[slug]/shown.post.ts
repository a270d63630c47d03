import { object, string } from 'yup'
import { noteShown } from '../../../services/masking'

const body = object({ path: string().required(), pointer: string().required() }).noUnknown()

/** Tells that a secret was shown to somebody, which the record keeps. */
export default api({ role: 'viewer', body }, async ({ context, account, body: { path, pointer }, server }) => {
  await noteShown(context, await server(), path, pointer, account.name)
  return { done: true }
})
