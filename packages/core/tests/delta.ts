/** A small server of the delta that checks are tried on. */
import {
  NO_KNOWLEDGE,
  checkWorkspace,
  workspaceFile,
  workspaceOf,
  type FileFinding,
  type Knowledge,
  type KnownPlugin,
  type Workspace,
} from '../src/checks'
import { UNSAID } from '../src/formats/reading'
import type { Rule } from '../src/rules/rule'

export const plugin = (name: string, more: Partial<KnownPlugin> = {}): KnownPlugin => ({
  name,
  version: '1.0.0',
  path: `extras/${name}.pack`,
  isOff: false,
  requires: {},
  conflicts: {},
  nodes: {},
  commands: {},
  placeholders: {},
  ...more,
})

/** What is known of it. */
export const DELTA: Knowledge = {
  ...NO_KNOWLEDGE,
  lists: {
    items: new Set(['clay', 'reed', 'eel', 'fired_brick', 'oak_plank', 'tin_bell', 'rope_coil']),
    sounds: new Set(['tin_bell', 'splash']),
    effects: new Set(['warm_hands', 'wet_feet']),
    places: new Set(['delta', 'upriver', 'saltpans']),
    groups: new Set(['mudlark', 'ferryman', 'warden']),
  },
  plugins: [
    plugin('A', {
      nodes: { 'a.use': 'Use it', 'a.admin': 'Change it' },
      commands: { hamper: 'Claim' },
      placeholders: { '{player}': 'Who' },
    }),
    plugin('Purse'),
  ],
  commands: new Set(['say', 'reload']),
  texts: {
    placeholder: ['{', '}'],
    lineBreak: '[br]',
    codes: '\\[/?[a-z]*\\]',
    marks: [
      { code: '[amber]', colour: '#e8b04a' },
      { code: '[/]', ends: 'colour' },
      { code: '[b]', bold: true },
      { code: '[/b]', ends: 'bold' },
    ],
  },
  ports: [{ name: 'game', port: 40100, file: 'brackwater.yml' }],
  groups: { file: 'W/groups.yml', at: '/groups' },
  paths: new Set(['A/book.txt', 'A/big.png', 'W/groups.yml']),
  pictures: new Map([['A/big.png', { width: 128, height: 96 }]]),
}

interface Around {
  readonly factories?: Readonly<Record<string, string>>
  readonly rules?: readonly Rule[]
  readonly knowledge?: Knowledge
}

/** Some files as a workspace, each of the plugin its folder is called by. */
export function workspace(
  files: Readonly<Record<string, string>>,
  { factories = {}, rules = [], knowledge = DELTA }: Around = {},
): Workspace {
  const known = knowledge.lists
  const read = Object.entries(files).map(([path, text]) =>
    workspaceFile({ path, plugin: path.split('/')[0]!, text, factory: factories[path] ?? null, reading: UNSAID, known, rules }),
  )
  return workspaceOf(read, null, knowledge.plugins, knowledge)
}

/** What is found in some files. */
export const found = (files: Readonly<Record<string, string>>, around: Around = {}): FileFinding[] =>
  checkWorkspace(workspace(files, around))

export const GROUPS =
  'newcomers:\n  # The group they start in.\n  group: mudlark\ngroups:\n  mudlark:\n    inherits: []\n    nodes: [a.use]\n  ferryman:\n    inherits: [mudlark]\n    nodes: []\n'

/** The line of an offset, from 1. */
export const lineOf = (text: string, at: number): number => text.slice(0, at).split('\n').length
