import { object, string } from 'yup'

const params = object({ id: string().max(100).required() })

/** Ends a try before its time. */
export default api({ role: 'owner', params }, async ({ context, params: { id } }) => {
  await context.tries.cancel(id)
  return { ok: true }
})
