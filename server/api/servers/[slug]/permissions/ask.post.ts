import { object, string } from 'yup'
import { askRights } from '../../../../services/permissions'

const body = object({
  // it becomes part of a console command
  player: string()
    .matches(/^[\p{L}\p{N}_.-]{1,64}$/u, 'player takes one word: the name or id of a player')
    .required('player is missing: it is who is asked about'),
}).noUnknown()

/** What the running server says that a player may. */
export default api({ role: 'editor', body }, async ({ body: { player }, server }) => ({ nodes: await askRights(await server(), player) }))
