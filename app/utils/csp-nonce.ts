/** The nonce of this page, which styles that scripts add must carry. */
export function cspNonce(): string {
  return document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? ''
}
