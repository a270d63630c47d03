import { number, object, string } from 'yup'
import { discardCommand } from '../../../../services/player-changes'
import { discardDrafts } from '../../../../services/tray'

const query = object({ path: string(), sha: string(), command: number().integer() })

/** Discards all that is staged, the draft of one file, exactly the one that was looked at, or one command. */
export default api({ role: 'editor', query }, async ({ context, query: { path, sha, command }, server }) => {
  if (command === undefined) await discardDrafts(context, await server(), path, sha)
  else await discardCommand(context, await server(), command)
  return { ok: true }
})
