import { randomBytes, randomUUID } from 'node:crypto'
import { setResponseHeaders } from 'h3'
import { pagePolicy, securityHeaders, withNonce } from '../utils/security-headers'

/** Gives every answer its security headers, and pages a nonce for what stands in them. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('request', (event) => {
    // what an answer that went wrong is found by in the log
    event.context['requestId'] = randomUUID().slice(0, 8)
    setResponseHeaders(event, { ...securityHeaders(event.path), 'x-request-id': String(event.context['requestId']) })
  })
  nitro.hooks.hook('render:html', (html, { event }) => {
    const nonce = randomBytes(16).toString('base64')
    for (const part of ['head', 'bodyPrepend', 'body', 'bodyAppend'] as const)
      html[part] = html[part].map((piece) => withNonce(piece, nonce))
    // where scripts that add styles of their own find it
    html.head.push(`<meta property="csp-nonce" nonce="${nonce}">`)
    setResponseHeaders(event, { 'content-security-policy': pagePolicy(nonce), 'cache-control': 'no-store' })
  })
  nitro.hooks.hook('render:response', (response) => {
    delete response.headers?.['x-powered-by']
  })
})
