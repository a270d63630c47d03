/*
 * What browsers are told about our answers (Content Security Policy Level 3): scripts come from ourselves, or carry the
 * nonce of the page they stand in; nothing is framed, and nothing is fetched from elsewhere. The worker's scripts are
 * held to the policy of their own answers, so these get the whole of it too.
 */
function policy(nonce?: string): string {
  const own = nonce ? `'self' 'nonce-${nonce}'` : "'self'"
  return [
    "default-src 'none'",
    `script-src ${own}`,
    `style-src ${own}`,
    // what the interface moves and sizes as it goes
    "style-src-attr 'unsafe-inline'",
    // pictures that somebody chose and has not sent yet are objects of the page
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "connect-src 'self'",
    "worker-src 'self'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ')
}

/** The headers every answer carries. */
export function securityHeaders(path: string): Record<string, string> {
  return {
    'content-security-policy': path.startsWith('/api/') ? "default-src 'none'; frame-ancestors 'none'" : policy(),
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'no-referrer',
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-resource-policy': 'same-origin',
    ...(path.startsWith('/api/') ? { 'cache-control': 'no-store' } : {}),
  }
}

/** The policy of a page whose own scripts and styles carry a nonce. */
export const pagePolicy = (nonce: string): string => policy(nonce)

/** Gives the inline scripts and styles of a piece of a page their nonce. A page also has pieces that are nothing. */
export function withNonce<T>(html: T, nonce: string): T | string {
  if (typeof html !== 'string') return html
  return html.replace(/<(script|style)(?=[\s>])/g, `<$1 nonce="${nonce}"`)
}
