import { choicesIn } from '../choices'
import { folderIn, sizeIn } from '../said'
import { readSpelledTime } from '../units'
import { endsWith, hasWord, type Detector, type Look } from './look'

const all = (look: Look, fits: (text: string) => boolean): boolean => look.texts.length > 0 && look.texts.every(fits)
const isText = (look: Look): boolean => look.kind === 'text' || look.kind === 'null'

/** Words that say off and on, where the format or quotes made texts of them. */
export const wordSwitch: Detector = (look) => {
  if (look.kind !== 'text' || look.isList) return null
  const value = look.texts[0]!.toLowerCase()
  const pair = [
    ['yes', 'no'],
    ['on', 'off'],
    ['true', 'false'],
    ['enabled', 'disabled'],
  ].find((words) => words.includes(value))
  if (!pair) return null
  const listed = choicesIn(look.comment, value)
  return listed.length > 2 || (listed.length === 2 && !listed.every((word) => pair.includes(word.toLowerCase())))
    ? null
    : { means: 'switch' }
}

const TIME = /^([01]?\d|2[0-4]):[0-5]\d(:[0-5]\d)?( ?[ap]m)?$/i

export const timeOfDay: Detector = (look) => {
  if (!isText(look) || !all(look, (text) => TIME.test(text.trim()))) return null
  const said = `${look.comment}\n${look.head}`
  const zone = /\b(?:UTC|GMT)\b/.test(said) || hasWord(look, 'utc', 'gmt') ? 'UTC' : /\b[A-Z][a-z]+\/[A-Z][A-Za-z_]+\b/.exec(said)?.[0]
  return { means: 'time', ...(zone ? { zone } : {}) }
}

export const spelledDuration: Detector = (look) =>
  look.kind === 'text' && all(look, (text) => readSpelledTime(text) !== null) ? { means: 'duration' } : null

const HEX = /^(?:#|0x|&#|<#)?[0-9a-f]{6}(?:[0-9a-f]{2})?>?$/i

export const colour: Detector = (look) => {
  const named = hasWord(look, 'colour', 'color', 'tint', 'rgb', 'hex')
  if (
    look.isList &&
    look.kind === 'number' &&
    named &&
    /^[34]$/.test(String(look.texts.length)) &&
    all(look, (text) => Number(text) >= 0 && Number(text) <= 255)
  )
    return { means: 'colour' }
  if (look.kind !== 'text') return null
  if (all(look, (text) => /^#(?:[0-9a-f]{3}|[0-9a-f]{6}|[0-9a-f]{8})$/i.test(text))) return { means: 'colour' }
  if (named && all(look, (text) => HEX.test(text) || /^\d{1,3}(?:,\s*\d{1,3}){2,3}$/.test(text))) return { means: 'colour' }
  return null
}

const LINK = /^(?:https?|wss?|ftps?|mailto):\S+$/i

export const link: Detector = (look) => {
  if (!isText(look)) return null
  if (all(look, (text) => LINK.test(text))) return { means: 'link' }
  return endsWith(look, 'url', 'website', 'link', 'webhook', 'uri') &&
    all(look, (text) => text === '' || LINK.test(text) || /^[\w-]+(\.[\w-]+)+(\/\S*)?$/.test(text))
    ? { means: 'link' }
    : null
}

const HOST = /^(?:localhost|\d{1,3}(?:\.\d{1,3}){3}|\[?[0-9a-f]*:[0-9a-f:]+\]?|(?:[a-z0-9-]+\.)+[a-z]{2,}|[a-z][a-z0-9-]*)$/i

export const host: Detector = (look) => {
  if (!isText(look) || !endsWith(look, 'host', 'hostname', 'address', 'ip', 'bind', 'domain')) return null
  if (hasWord(look, 'email', 'mail')) return null
  return all(look, (text) => text === '' || HOST.test(text)) ? { means: 'host' } : null
}

export const secret: Detector = (look) => {
  if (!isText(look) || look.isList) return null
  const { words } = look
  const named =
    endsWith(look, 'password', 'passwd', 'pass', 'passphrase', 'secret', 'apikey', 'credential') ||
    (endsWith(look, 'token') && !/\bitem\b/i.test(look.comment)) ||
    (endsWith(look, 'key') &&
      words.some((word) => ['api', 'private', 'secret', 'access', 'license', 'licence', 'auth', 'encryption'].includes(word))) ||
    (endsWith(look, 'key') && /\b(?:secret|never share|keep (?:it|this) (?:secret|private)|do not share)\b/i.test(look.comment))
  return named ? { means: 'secret' } : null
}

const PICTURE = /\.(png|jpe?g|gif|webp|bmp|svg|ico)$/i
const FILE = /^[^\s:*?"<>|{}[\]]+\.[a-z][a-z0-9]{1,9}$/i

export const picture: Detector = (look) => {
  if (!isText(look) || all(look, (text) => LINK.test(text))) return null
  const named = all(look, (text) => PICTURE.test(text) && !/\s/.test(text))
  const saysSo =
    /\b(?:PNG|JPE?G|GIF)\b/.test(look.comment) &&
    endsWith(look, 'picture', 'image', 'icon', 'logo', 'banner', 'file', 'favicon', 'background')
  if (!named && !(saysSo && all(look, (text) => text === '' || PICTURE.test(text)))) return null
  const found = new Set([
    ...look.texts.map((text) => PICTURE.exec(text)?.[1]?.toLowerCase()),
    /\bPNG\b/.test(look.comment) ? 'png' : undefined,
  ])
  return {
    means: 'picture',
    endings: [...found].filter((ending) => ending !== undefined),
    ...sizeIn(look.comment),
    ...folderIn(look.comment),
  }
}

export const file: Detector = (look) => {
  if (!isText(look) || !all(look, (text) => FILE.test(text) || text === '')) return null
  const named = endsWith(
    look,
    'file',
    'path',
    'folder',
    'directory',
    'dir',
    'template',
    'book',
    'schematic',
    'script',
    'log',
    'certificate',
  )
  const saysSo =
    /\b(?:file|folder)\b[^.\n]{0,30}\b(?:beside|in|below|next to|under)\b|\bname of (?:the|a) file\b|\bpath (?:to|of)\b|\ba (?:text )?file\b/i.test(
      look.comment,
    )
  if (!(named || saysSo) || look.texts.every((text) => text === '')) return null
  const ending = /\.([a-z0-9]+)$/i.exec(look.texts[0]!)?.[1]
  return /^(?:com|net|org|example|io)$/i.test(ending ?? '')
    ? null
    : { means: 'file', ...(ending ? { endings: [ending.toLowerCase()] } : {}), ...folderIn(look.comment) }
}

const NODE = /^-?[a-z0-9_-]+(?:\.(?:[a-z0-9_-]+|\*))+$/i

export const node: Detector = (look) => {
  if (!isText(look)) return null
  const named =
    hasWord(look, 'node', 'permission', 'perm') ||
    ((look.isList || look.texts.every((text) => NODE.test(text))) &&
      look.around.wordsAbove.slice(-1).some((word) => ['permission', 'node'].includes(word)))
  const said = /\bpermission\b|\bnode\b/i.test(look.comment)
  const fits = (text: string): boolean => NODE.test(text) || text === '' || text === '*'
  if (!all(look, fits) || (look.texts.every((text) => text === '') && !named)) return null
  return named || (said && all(look, (text) => NODE.test(text))) ? { means: 'node' } : null
}

export const command: Detector = (look) => {
  if (!isText(look)) return null
  const named = hasWord(look, 'command', 'cmd') && !hasWord(look, 'name', 'alias', 'message', 'prefix')
  const said = /\b(?:run|executed?) (?:on|by|from|in) the (?:console|server)\b|\bcommands? (?:that are )?run\b/i.test(look.comment)
  return (named || said) && look.texts.some((text) => text !== '') ? { means: 'command' } : null
}

export const choice: Detector = (look) => {
  if (!isText(look) || look.isList) return null
  const choices = choicesIn(look.comment, look.texts[0]!)
  return choices.length > 1
    ? {
        means: 'choice',
        choices: choices.includes(look.texts[0]!) || look.texts[0] === '' ? choices : choices.map((one) => likeValue(one, look.texts[0]!)),
      }
    : null
}

/** Authors write choices in other letters than values: those of the value count. */
const likeValue = (choice: string, value: string): string =>
  value === value.toUpperCase() ? choice.toUpperCase() : value === value.toLowerCase() ? choice.toLowerCase() : choice
