import { neededKeys } from '../rules/needs'
import type { FileLooks, ValueLook } from './looks'

/** Names of settings that switch what is beside and below them on or off. */
export const SWITCHES = /^(?:enabled?|active|is-?enabled|switched-?on)$/i
/** What they say then. */
export const OFF = /^(?:false|no|off|0)$/i
const ON = /^(?:true|yes|on|1|enabled)$/i

const known = new WeakMap<FileLooks, (value: ValueLook) => boolean>()

/**
 * Tells which settings do nothing for now: those in a section that is switched off, also further up, and those whose rule names another
 * setting that is not as it has to be.
 */
export function sleepingIn(looks: FileLooks): (value: ValueLook) => boolean {
  let found = known.get(looks)
  if (!found) known.set(looks, (found = asleepIn(looks)))
  return found
}

function asleepIn({ values }: FileLooks): (value: ValueLook) => boolean {
  const off = new Set(
    values.flatMap(({ keys, text, isItem, node }) =>
      !isItem && SWITCHES.test(keys.at(-1)!) && (node.kind === 'bool' || node.kind === 'text') && OFF.test(text)
        ? [at(keys.slice(0, -1))]
        : [],
    ),
  )
  let texts: Map<string, string> | null = null
  const textAt = (keys: readonly string[]): string | undefined =>
    (texts ??= new Map(values.map((value) => [at(value.keys), value.text]))).get(at(keys))
  const isUnmet = ({ keys, rule }: ValueLook): boolean =>
    (rule?.needs ?? []).some((need) => {
      if (!('setting' in need)) return false
      const wanted = neededKeys(need.setting, keys) ?? []
      const text = at(wanted) === at(keys) ? undefined : textAt(wanted)
      if (text === undefined) return false
      return typeof need.is === 'boolean' ? ON.test(text) !== need.is : text !== String(need.is)
    })
  return (value) => (off.size > 0 && value.keys.some((_, depth) => off.has(at(value.keys.slice(0, depth))))) || isUnmet(value)
}

const at = (keys: readonly string[]): string => keys.join('\n')
