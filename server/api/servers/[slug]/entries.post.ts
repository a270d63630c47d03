import { boolean, object, string } from 'yup'
import { requireServer } from '../../../services/context'
import { copyEntry } from '../../../services/entries'

const body = object({
  /** The entry that is copied. */
  from: object({ server: slugShape, path: string().required(), pointer: string().required() }).noUnknown().required(),
  path: string().required(),
  /** The section or list it goes into; empty for the whole file. */
  group: string().defined(),
  name: string().max(200).nullable().default(null),
  /** Only says what would come of it. */
  trial: boolean().default(false),
}).noUnknown()

/** Copies an entry into the draft of a file of this server, from the same or another one. */
export default api({ role: 'editor', body }, async ({ context, account, body: { from, path, group, name, trial }, server }) =>
  copyEntry(
    context,
    { ...from, server: await requireServer(context, from.server) },
    { server: await server(), path, group, name },
    { isTrial: trial, account: account.name },
  ),
)
