import { describe, expect, it } from 'vitest'
import { pagePolicy, securityHeaders, withNonce } from '../../server/utils/security-headers'

describe('security headers', () => {
  it('let scripts come from ourselves only, and nothing frame us', () => {
    const policy = securityHeaders('/_nuxt/x.js')['content-security-policy']!
    for (const part of ["default-src 'none'", "script-src 'self'", "frame-ancestors 'none'", "base-uri 'none'"])
      expect(policy.split('; ')).toContain(part)
    expect(policy.replace('style-src-attr', '').match(/unsafe-inline/g)).toHaveLength(1)
    expect(policy).not.toMatch(/unsafe-eval|\*|https?:/)
    expect(securityHeaders('/api/me')).toMatchObject({
      'content-security-policy': "default-src 'none'; frame-ancestors 'none'",
      'cache-control': 'no-store',
    })
  })

  it('give a page’s own scripts their nonce', () => {
    expect(pagePolicy('abc')).toContain("script-src 'self' 'nonce-abc'")
    expect(withNonce('<script>1</script><style>a{}</style><script type="module" src="/x.js"></script><scripty>', 'abc')).toBe(
      '<script nonce="abc">1</script><style nonce="abc">a{}</style><script nonce="abc" type="module" src="/x.js"></script><scripty>',
    )
    expect(withNonce(undefined, 'abc')).toBeUndefined()
  })
})
