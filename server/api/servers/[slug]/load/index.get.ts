import { object, string } from 'yup'
import { SPANS, loadOf, type Span } from '../../../../services/load'

const query = object({
  span: string()
    .oneOf(Object.keys(SPANS) as Span[])
    .default('day'),
})

/** How a server ran, with what was done to it and what that cost. */
export default api({ role: 'viewer', query }, async ({ context, query: { span }, server }) => loadOf(context, await server(), span))
