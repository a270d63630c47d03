import { object, string } from 'yup'

const params = object({ id: string().max(100).required() })

export default api({ role: 'owner', params }, async ({ context, params: { id } }) => context.tries.get(id))
