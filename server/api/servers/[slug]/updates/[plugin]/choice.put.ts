import { mixed, number, object, string } from 'yup'
import { choose } from '../../../../../services/updates'

const CHOICES = ['mine', 'update', 'factory', 'converted', 'keep', 'drop', 'value'] as const
const body = object({
  packageId: number().integer().required(),
  path: string().required(),
  decision: string().defined(),
  choice: object({ id: string().oneOf(CHOICES).required(), value: mixed().notRequired() })
    .nullable()
    .defined(),
})

export default api({ role: 'editor', body }, async ({ context, param, body: { packageId, path, decision, choice }, server }) =>
  choose(context, await server(), param('plugin'), packageId, path, decision, choice),
)
