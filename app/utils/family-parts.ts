import type { Family } from '@pasticcio/core'

/** One part of a family's description, in words. */
export interface FamilyPart {
  /** The key it stands under. */
  readonly key: string
  readonly title: string
  /** What the part is for. */
  readonly why: string
  /** What this family says. */
  readonly says: string
}

const KEPT: Readonly<Record<Family['plugins']['kept'], string>> = {
  packed: 'stay packed, one archive a plugin',
  'single-file': 'are one text file a plugin',
  unpacked: 'are unpacked into a folder each',
}

/** What a package may say of itself, in the order people think of it. */
const SAYS = [
  'name',
  'version',
  'summary',
  'authors',
  'game',
  'requires',
  'optional',
  'conflicts',
  'companions',
  'nodes',
  'commands',
  'placeholders',
  'changes',
  'tasks',
  'pieces',
] as const

const list = (items: readonly (string | undefined)[]): string => items.filter(Boolean).join(', ') || 'nothing'

/** A description in plain words, part by part, in the order of its keys. */
export function familyParts(family: Family): FamilyPart[] {
  const { plugins, descriptor, register, settings, console, framework, profile } = family
  const known = SAYS.filter((key) => descriptor[key] !== undefined)
  const patterns = ['ready', 'loaded', 'failed', 'generated', 'state', 'time', 'flushed', 'speech'] as const
  const commands = ['stop', 'reload', 'load', 'flush', 'times', 'grant', 'as-player', 'open-place'] as const
  const registries = Object.entries(family.registries).filter(([, registry]) => registry)
  return [
    {
      key: 'game-version',
      title: 'The game',
      why: 'Where the server says which version of the game it runs.',
      says: `${family['game-version'].file} at ${family['game-version'].at}`,
    },
    {
      key: 'profile',
      title: 'Its own folder',
      why: 'A folder that only the start command or a script names; {profile} stands for it.',
      says: profile ? `what ${profile.says} finds in the command or in ${list(profile.scripts)}, else ${profile.folder}/` : 'none',
    },
    {
      key: 'framework',
      title: 'Switched on',
      why: 'What must be so for plugins to be loaded at all.',
      says: framework ? `${framework.says}: ${framework.file}` : 'nothing need be switched on',
    },
    {
      key: 'plugins',
      title: 'Plugins',
      why: 'How packages are kept, where, and how they are called there.',
      says: `They ${KEPT[plugins.kept]}, in ${plugins.folder}/${plugins.off ? `; switched off they go to ${plugins.off}` : ''}`,
    },
    {
      key: 'descriptor',
      title: 'What a package says',
      why: 'Where its name, its version and what it needs are written.',
      says: `${descriptor.header ? 'its first lines' : (descriptor.file ?? '')}: ${list(known)}`,
    },
    {
      key: 'register',
      title: 'Made known',
      why: 'Lines, items or keys the server knows a plugin by.',
      says:
        register.length === 0
          ? 'by being in the folder'
          : list(register.map(({ kind, file, line, at }) => `a ${kind} in ${file}: ${line ?? at}`)),
    },
    {
      key: 'pieces',
      title: 'Elsewhere',
      why: 'What of a package belongs into other places.',
      says: family.pieces.length === 0 ? 'only what a package itself says' : list(family.pieces.map(({ from, to }) => `${from} to ${to}`)),
    },
    {
      key: 'settings',
      title: 'Settings',
      why: 'Which files are a plugin’s settings, and which the running server writes.',
      says: `${list([...settings.files, ...settings.endings.map((ending) => `*.${ending}`)])}; records: ${list(settings.records)}`,
    },
    {
      key: 'console',
      title: 'Console',
      why: 'Commands, and what lines of the console mean.',
      says: `commands: ${list(commands.filter((name) => console[name] !== undefined))}; lines: ${list(patterns.filter((name) => console[name] !== undefined))}`,
    },
    {
      key: 'registries',
      title: 'Lists',
      why: 'Where the server keeps the ids of items, places, sounds and groups.',
      says: list(registries.map(([name]) => name)),
    },
    {
      key: 'after-change',
      title: 'To count',
      why: 'What makes changed settings and new packages count.',
      says: `settings: ${family['after-change']}; records: ${family['after-record']}; packages: ${family['after-install']}`,
    },
    {
      key: 'reading',
      title: 'Reading',
      why: 'How the platform reads YAML and JSON.',
      says: `YAML ${family.reading.yaml}, ${family.reading['json-comments'] ? 'comments' : 'no comments'} in JSON`,
    },
    {
      key: 'texts',
      title: 'Texts',
      why: 'Codes and placeholders that messages use.',
      says: `placeholders ${family.texts.placeholder.join('name')}`,
    },
  ]
}
