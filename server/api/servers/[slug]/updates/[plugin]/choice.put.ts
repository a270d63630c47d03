import { number, object, string } from 'yup'
import { choose } from '../../../../../services/shown-update'
import { choiceSchema } from '../../../../../services/update-choices'

const params = object({ plugin: string().required() })
const body = object({
  packageId: number().integer().required(),
  path: string().required(),
  decision: string().defined(),
  choice: choiceSchema.nullable().defined(),
})

/** Decides one thing of an update, or takes the decision back; answers with the plan as it then is. */
export default api({ role: 'editor', params, body }, async ({ context, params: { plugin }, body, server }) =>
  choose(context, await server(), plugin, body),
)
