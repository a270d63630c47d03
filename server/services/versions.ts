import { coerce, gt, satisfies, valid } from 'semver'

function clean(version: string): string {
  return valid(version) ?? coerce(version)?.version ?? '0.0.0'
}

/** Whether a version, also one like `7.2`, lies in a range like `>=7.0 <8`. */
export function inRange(version: string, range: string): boolean {
  return satisfies(clean(version), range)
}

export function isNewer(a: string, b: string): boolean {
  return gt(clean(a), clean(b))
}
