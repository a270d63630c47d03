import { createCipheriv, createDecipheriv, hkdfSync, randomBytes } from 'node:crypto'

const MARK = 'sealed:1:'

/**
 * Keeps single texts encrypted in the database: AES-256-GCM with a key derived from the installation's secret
 * (HKDF-SHA-256, RFC 5869), a fresh nonce each time. What is stored is `sealed:1:` with nonce, tag and text in base64url.
 */
export class SecretBox {
  private readonly key: Buffer

  constructor(secret: string) {
    this.key = Buffer.from(hkdfSync('sha256', secret, '', 'pasticcio connection secrets', 32))
  }

  seal(text: string): string {
    const nonce = randomBytes(12)
    const cipher = createCipheriv('aes-256-gcm', this.key, nonce)
    const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
    return MARK + Buffer.concat([nonce, cipher.getAuthTag(), body]).toString('base64url')
  }

  /** @throws Error when it was sealed with another secret, or changed since */
  open(sealed: string): string {
    if (!sealed.startsWith(MARK)) throw new Error('this is no sealed text')
    const bytes = Buffer.from(sealed.slice(MARK.length), 'base64url')
    const decipher = createDecipheriv('aes-256-gcm', this.key, bytes.subarray(0, 12))
    decipher.setAuthTag(bytes.subarray(12, 28))
    return Buffer.concat([decipher.update(bytes.subarray(28)), decipher.final()]).toString('utf8')
  }

  /** The settings with the named ones sealed. */
  sealIn<T extends object>(settings: T, names: readonly string[]): T {
    return mapFields(settings, names, (text) => this.seal(text))
  }

  openIn<T extends object>(settings: T, names: readonly string[]): T {
    return mapFields(settings, names, (text) => (text.startsWith(MARK) ? this.open(text) : text))
  }
}

function mapFields<T extends object>(settings: T, names: readonly string[], change: (text: string) => string): T {
  const copy = { ...settings } as Record<string, unknown>
  for (const name of names) if (typeof copy[name] === 'string') copy[name] = change(copy[name])
  return copy as T
}
