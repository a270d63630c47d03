import picomatch from 'picomatch/posix.js'
import { fillIn, type Family } from './family'
import { isPlainPath } from './paths'

/*
 * Some servers keep what is theirs in a folder that only their start command names, as in `--profile=NAME`. A description
 * calls it {profile}; which folder that is, is looked up for each server.
 */

/** Whether a file at the top of a server's folder is a script that may name its profile. */
export function mayNameProfile(family: Family, path: string): boolean {
  const scripts = family.profile?.scripts ?? []
  return scripts.length > 0 && picomatch(scripts)(path)
}

/** The folders that a text names, a command or a script: those that can be folders below the server's, in its order. */
export function profilesNamed(family: Family, text: string): string[] {
  if (!family.profile) return []
  return [...text.matchAll(new RegExp(family.profile.says, 'gm'))].flatMap((found) => {
    const name = (found.groups?.['profile'] ?? found[1] ?? '').replace(/\/$/, '')
    return !isRemark(text, found.index) && isPlainPath(name) ? [name] : []
  })
}

/** Whether a place of a script stands in a remark: a line that begins as remarks of shells do. */
const isRemark = (text: string, at: number): boolean => /^\s*(#|::|rem\b)/i.test(text.slice(text.lastIndexOf('\n', at - 1) + 1, at))

/** A description for a server whose profile is this folder. What settings files are called keeps the word: packages are read by it. */
export function inProfile(family: Family, name: string | null): Family {
  if (!family.profile) return family
  const profile = { ...family.profile, folder: name ?? family.profile.folder }
  const { settings, pieces, ...rest } = family
  return { ...(filledDeep(rest, { profile: profile.folder }) as typeof rest), settings, pieces, profile }
}

/**
 * A description for a server, by texts that may name its profile, in their order: the first named folder that is there, else the usual one
 * where that is, else the first that is named.
 */
export async function inNamedProfile(
  family: Family,
  texts: readonly string[],
  isThere: (folder: string) => boolean | Promise<boolean>,
): Promise<Family> {
  if (!family.profile) return family
  const named = texts.flatMap((text) => profilesNamed(family, text))
  for (const name of named) if (await isThere(name)) return inProfile(family, name)
  return inProfile(family, (await isThere(family.profile.folder)) ? null : (named[0] ?? null))
}

function filledDeep(value: unknown, words: Readonly<Record<string, string>>): unknown {
  if (typeof value === 'string') return fillIn(value, words)
  if (Array.isArray(value)) return value.map((item) => filledDeep(item, words))
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([key, item]) => [key, filledDeep(item, words)]))
}
