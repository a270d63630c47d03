import { boolean, object, string } from 'yup'
import { stageNamed } from '../../../../services/named-files'
import { SIZES } from '../../../../services/sizes'

const query = object({
  path: string().required(),
  pointer: string().defined(),
  name: string().required().max(200),
  asItIs: boolean().default(false),
})

/** Stages the body of the request as a file that a setting may name; `name` is the path below the setting’s folder. */
export default api({ role: 'editor', query }, async ({ event, context, account, query, server }) => {
  const { name, asItIs, ...naming } = query
  const opened = await server()
  const bytes = await receiveBytes(event, SIZES.picture, name)
  return stageNamed(context, opened, naming, { name, bytes, asItIs }, account.name)
})
