import { randomBytes, scrypt, timingSafeEqual, type ScryptOptions } from 'node:crypto'

/*
 * Passwords are kept as `scrypt:LOG2N:R:P:SALT:HASH` (RFC 7914), salt and hash in base64url, so that the costs can be
 * raised later without losing the passwords that are there.
 */
const COST = { log2n: 15, r: 8, p: 3 } as const
const HASH_BYTES = 32

/** Turns a password into what is kept of it, with a fresh salt. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16)
  const hash = await derive(password, salt, COST)
  return ['scrypt', COST.log2n, COST.r, COST.p, salt.toString('base64url'), hash.toString('base64url')].join(':')
}

/** Whether a password is the one that was kept. Without one it takes as long as with one, and the answer is no. */
export async function isPassword(password: string, kept: string | null): Promise<boolean> {
  const [kind, log2n, r, p, salt, hash] = (kept ?? '').split(':')
  if (kind !== 'scrypt' || !salt || !hash) {
    await derive(password, randomBytes(16), COST)
    return false
  }
  const wanted = Buffer.from(hash, 'base64url')
  const given = await derive(password, Buffer.from(salt, 'base64url'), { log2n: Number(log2n), r: Number(r), p: Number(p) })
  return wanted.length === given.length && timingSafeEqual(wanted, given)
}

function derive(password: string, salt: Buffer, { log2n, r, p }: { log2n: number; r: number; p: number }): Promise<Buffer> {
  const N = 2 ** log2n
  const options: ScryptOptions = { N, r, p, maxmem: 256 * N * r }
  return new Promise((resolve, reject) =>
    scrypt(password.normalize('NFKC'), salt, HASH_BYTES, options, (error, key) => (error ? reject(error) : resolve(key))),
  )
}
