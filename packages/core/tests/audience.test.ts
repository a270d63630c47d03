import { describe, expect, it } from 'vitest'
import { audiencesIn } from '../src/checks/audience'
import { looksOf } from '../src/checks/looks'
import { workspaceFile } from '../src/checks/workspace'
import { UNSAID } from '../src/formats/reading'

const audiences = (path: string, text: string): string[] =>
  audiencesIn(looksOf(workspaceFile({ path, plugin: null, text, factory: null, reading: UNSAID })!)).map(
    ({ of, pointer, from, kind, names }) => {
      expect(text.slice(from)).toMatch(/^[[{\n -]/)
      return `${of} ${pointer} ${kind}: ${names.join(' ')}`
    },
  )

describe('for whom and where an entry is, by its own lists', () => {
  it.each<[string, string, string[]]>([
    ['a.yml', 'stalls:\n  lamps:\n    places: [delta, upriver]\n', ['/stalls/lamps /stalls/lamps/places places: delta upriver']],
    ['a.yml', 'stalls:\n  lamps:\n    allowed-players:\n      - nessa\n', ['/stalls/lamps /stalls/lamps/allowed-players players: nessa']],
    [
      'a.json',
      '{"pit": {"members": ["77001", 77002], "worlds": ["delta"]}}',
      ['/pit /pit/members players: 77001 77002', '/pit /pit/worlds places: delta'],
    ],
    ['a.lua', 'return { pit = { players = { "nessa" } } }', ['/pit /pit/players players: nessa']],
    // an empty list is for all, and what stands by itself is of no entry
    ['a.yml', 'stalls:\n  lamps:\n    places: []\nplaces: [delta]\n', []],
    ['a.yml', 'stalls:\n  lamps:\n    goods: [rope]\n    players: 4\n', []],
  ])('%s %s', (path, text, expected) => expect(audiences(path, text)).toEqual(expected))
})
