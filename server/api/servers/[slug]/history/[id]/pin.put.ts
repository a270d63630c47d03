import { boolean, number, object } from 'yup'
import { pinApply } from '../../../../../services/history'

const params = object({ id: number().integer().required() })
const body = object({ pinned: boolean().required('pinned is missing') }).noUnknown()

/** Keeps a change in the history however old it gets, or no longer. */
export default api({ role: 'editor', params, body }, async ({ context, params: { id }, body: { pinned }, server }) => {
  await pinApply(context, await server(), id, pinned)
  return { ok: true }
})
