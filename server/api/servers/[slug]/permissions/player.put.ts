import { TERM_UNITS } from '@pasticcio/core'
import { number, object, string } from 'yup'
import { stagePlayerChange } from '../../../../services/player-changes'

const oneWord = string().max(200).matches(/^\S+$/, '${path} takes one word')
const body = object({
  player: oneWord.required('player is missing: the id or name of who is meant'),
  what: string()
    .oneOf(['node', 'group'] as const)
    .required(),
  name: oneWord.required('name is missing: the node or the group'),
  word: string()
    .oneOf(['granted', 'denied'] as const)
    .nullable()
    .defined('word is missing: granted, denied, or null to say nothing of it any more'),
  term: object({ amount: number().integer().min(1).max(100_000).required(), unit: string().oneOf(TERM_UNITS).required() })
    .noUnknown()
    .nullable()
    .default(null),
}).noUnknown()

/** Puts a change of one player’s rights into the tray, as the console command that it is; nothing is said before it is applied. */
export default api({ role: 'editor', body }, async ({ context, account, body, server }) =>
  stagePlayerChange(context, await server(), body, account.name),
)
