import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NO_KNOWLEDGE, checkWorkspace, workspaceFile, workspaceOf, type FileFinding } from '../src/checks'
import { UNSAID } from '../src/formats/reading'
import { makeServer, seededRandom, type MadeServer } from './well-formed'

const TEXTS = {
  placeholder: ['{', '}'],
  lineBreak: '[br]',
  codes: '\\[/?[a-z]*\\]',
  marks: [
    { code: '[amber]', colour: '#e8b04a' },
    { code: '[/]', ends: 'colour' as const },
    { code: '[b]', bold: true },
    { code: '[/b]', ends: 'bold' as const },
  ],
}

function findingsOf({ plugins, files, lists, groupsFile }: MadeServer): FileFinding[] {
  const read = Object.entries(files).map(([path, { mine, shipped }]) =>
    workspaceFile({ path, plugin: path.split('/')[1]!, text: mine, factory: shipped, reading: UNSAID, known: lists }),
  )
  const known = plugins.map((plugin) => ({
    ...plugin,
    version: '1.0.0',
    path: `extras/${plugin.name}.pack`,
    isOff: false,
    requires: {},
    conflicts: {},
  }))
  const knowledge = {
    ...NO_KNOWLEDGE,
    lists,
    plugins: known,
    commands: new Set(['say']),
    texts: TEXTS,
    groups: { file: groupsFile, at: '/groups' },
  }
  return checkWorkspace(workspaceOf(read, null, known, knowledge))
}

describe('servers that are as they should be', () => {
  it('have nothing found in them that is held to be wrong', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const wrong = findingsOf(makeServer(seededRandom(seed))).filter(({ severity }) => severity !== 'note')
        expect(wrong.map(({ file, code, message }) => `${file} ${code} ${message}`)).toEqual([])
      }),
      { numRuns: 60 },
    )
  })
})
