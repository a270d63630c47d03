import { nameKey } from '../db/repositories/accounts'
import type { Attempts, Counted } from '../db/repositories/attempts'
import type { Context } from './context'
import { ServiceError } from './errors'

/** Attempts without a wait: more from one address, behind which several people may sit. */
const FREE: Readonly<Record<Counted['kind'], number>> = { account: 5, address: 20 }
const LONGEST_WAIT_MS = 5 * 60_000
/** After so long without an attempt the count begins again. */
const FORGET_MS = 60 * 60_000

/** Who tries to sign in, and from where. */
export interface Attempt {
  /** The account that is named; null where a link names none. */
  readonly account: string | null
  readonly address: string
}

/**
 * Counts an attempt as failed before it is made, so that many at once cannot slip past; `forgive` takes that back.
 * @throws ServiceError `too-many-attempts` with the seconds to wait
 */
export async function countAttempt(context: Context, attempt: Attempt): Promise<void> {
  const now = context.now().getTime()
  let wait = 0
  const counted = countedOf(attempt)
  await context.attempts.change(counted, (all) => {
    wait = Math.max(...all.map(({ waitUntil }) => waitUntil - now))
    return wait > 0 ? null : all.map((item, i) => counting(item, counted[i]!.kind, now))
  })
  if (wait <= 0) return
  const seconds = Math.ceil(wait / 1000)
  throw new ServiceError(
    'too-many-attempts',
    429,
    `There were too many attempts to sign in. Try again in ${seconds < 60 ? `${seconds} s` : `${Math.ceil(seconds / 60)} min`}.`,
    { data: { retryAfter: seconds } },
  )
}

/** The attempt was right: the account is as before its first, the address as before this one. */
export async function forgive(context: Context, attempt: Attempt): Promise<void> {
  const now = context.now().getTime()
  const counted = countedOf(attempt)
  await context.attempts.change(counted, (all) =>
    all.map(({ count, lastAt, waitUntil }, i) => {
      const left = counted[i]!.kind === 'account' ? 0 : Math.max(0, count - 1)
      return { count: left, lastAt, waitUntil: left < FREE[counted[i]!.kind] ? 0 : waitUntil }
    }),
  )
  await context.attempts.forget(now - FORGET_MS)
}

function countedOf({ account, address }: Attempt): Counted[] {
  const byAddress: Counted = { kind: 'address', key: address }
  return account === null ? [byAddress] : [{ kind: 'account', key: nameKey(account).slice(0, 100) }, byAddress]
}

function counting({ count, lastAt }: Attempts, kind: Counted['kind'], now: number): Attempts {
  const next = (now - lastAt > FORGET_MS ? 0 : count) + 1
  const over = next - FREE[kind]
  const wait = over < 0 ? 0 : Math.min(1000 * 2 ** over, LONGEST_WAIT_MS)
  return { count: next, lastAt: now, waitUntil: now + wait }
}
