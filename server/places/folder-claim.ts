import { join } from 'node:path'
import { HeldElsewhere, Hold } from '../hold'
import { PlaceError } from './place'

/** A hidden file in a server's folder: the installation that holds it works there, and no other does. */
const NAME = '.pasticcio.lock'

/** A claim on a folder. What is noted in it outlives this process. */
export interface FolderClaim {
  note: string | null
  release(): void
}

/** Claims of this process, each shared by those who need it. */
const claims = new Map<string, { readonly hold: Hold; users: number }>()

/** @param root the real path of the folder @throws PlaceError `claimed` */
export function claimFolder(root: string): FolderClaim {
  const claim = claims.get(root) ?? { hold: take(root), users: 0 }
  claims.set(root, claim)
  claim.users++
  let isReleased = false
  return {
    get note() {
      return claim.hold.note
    },
    set note(text) {
      claim.hold.note = text
    },
    release() {
      if (isReleased) return
      isReleased = true
      if (--claim.users > 0) return
      claims.delete(root)
      claim.hold.release()
    },
  }
}

function take(root: string): Hold {
  try {
    return Hold.take(join(root, NAME))
  } catch (error) {
    if (error instanceof HeldElsewhere)
      throw new PlaceError('claimed', `Another Pasticcio works on ${root}. Stop that one first, or forget this server there.`, {
        cause: error,
      })
    if (/^SQLITE_(CANTOPEN|READONLY|PERM)/.test((error as { code?: string }).code ?? ''))
      throw new PlaceError('denied', `${root}: Pasticcio may not write there. Give its account the right to, as the game server has it.`, {
        cause: error,
      })
    throw error
  }
}
