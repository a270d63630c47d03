import { isIPv6 } from 'node:net'
import { deleteCookie, getCookie, getRequestIP, getRequestProtocol, setCookie, type H3Event } from 'h3'
import { SESSION_DAYS, type Session } from '../services/accounts'
import { useEnvironment } from './environment'

const SESSION_COOKIE = 'pasticcio_session'

/** The token of the session a request belongs to. */
export function sessionOf(event: H3Event): string | undefined {
  return getCookie(event, SESSION_COOKIE)
}

/** Gives the browser its session. Scripts cannot read it, and it goes with requests of our own pages only. */
export function keepSession(event: H3Event, { token }: Session): void {
  const secure = getRequestProtocol(event, { xForwardedProto: useEnvironment().PASTICCIO_BEHIND_PROXY }) === 'https'
  setCookie(event, SESSION_COOKIE, token, { httpOnly: true, sameSite: 'strict', secure, path: '/', maxAge: SESSION_DAYS * 86_400 })
}

export function dropSession(event: H3Event): void {
  deleteCookie(event, SESSION_COOKIE, { path: '/' })
}

/** Where a request comes from, as attempts are counted by it. */
export function addressOf(event: H3Event): string {
  return addressKey(getRequestIP(event, { xForwardedFor: useEnvironment().PASTICCIO_BEHIND_PROXY }) ?? 'unknown')
}

/** An IPv4 address, also one written as IPv6, or the network of 64 bits that one household's IPv6 addresses share. */
export function addressKey(address: string): string {
  const plain = address.replace(/^::ffff:(?=\d+\.\d+\.\d+\.\d+$)/i, '')
  if (!isIPv6(plain)) return plain
  const [head = '', tail = ''] = plain.replace(/%.*$/, '').split('::')
  const left = head.split(':').filter(Boolean)
  const right = tail.split(':').filter(Boolean)
  const groups = [...left, ...Array<string>(Math.max(0, 8 - left.length - right.length)).fill('0'), ...right]
  return `${groups
    .slice(0, 4)
    .map((group) => parseInt(group, 16).toString(16))
    .join(':')}::/64`
}
