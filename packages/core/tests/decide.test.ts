import { describe, expect, it } from 'vitest'
import { decide, type Facts } from '../src/carry/decide'
import { wordReason, wordReasons, type Reason } from '../src/carry/reasons'

const both: Facts = {
  baseline: true,
  inFactory: true,
  inMine: true,
  inUpdate: true,
  mineIsFactory: false,
  mineIsUpdate: false,
  updateIsFactory: false,
  sameKind: true,
}
const found = { confidence: 0.95, reason: { code: 'section-found', section: 'claim', path: 'claiming' } } as const
const guessed = { ...found, confidence: 0.6 }
const respelt = { confidence: 1, reason: { code: 'respelt', path: 'save-every' }, respelt: true } as const
const doubt = { how: 'place', confidence: 0.6 } as const
const scale: Reason = { code: 'unit-changed', from: 'second', to: 'tick' }

/** The rows of docs/carry.md: what is known, what comes of it, what is written, how much attention it asks for. */
const ROWS: readonly (readonly [string, Facts, string, string, string | null])[] = [
  ['as factory, as factory', { ...both, mineIsFactory: true, updateIsFactory: true, mineIsUpdate: true }, 'unchanged', 'update', null],
  ['as factory, changed', { ...both, mineIsFactory: true }, 'took-update', 'update', null],
  ['changed, as factory', { ...both, updateIsFactory: true }, 'kept-mine', 'mine', null],
  ['changed, changed to the same', { ...both, mineIsUpdate: true }, 'same-change', 'update', null],
  ['changed, changed otherwise', both, 'default-moved', 'mine', 'look'],
  [
    'changed, another kind',
    { ...both, sameKind: false, kindMoved: true, kinds: { from: 'a number', to: 'a list' } },
    'kind-changed',
    'fitting',
    'decide',
  ],
  ['changed, I made another kind of it', { ...both, sameKind: false }, 'kind-changed', 'mine', 'decide'],
  ['changed, another unit', { ...both, scale }, 'scale-changed', 'mine', 'decide'],
  ['–, added', { ...both, inFactory: false, inMine: false }, 'added-by-update', 'update', null],
  ['added, –', { ...both, inFactory: false, inUpdate: false, landing: { found: null, gone: false } }, 'kept-addition', 'mine', null],
  [
    'added, its section found elsewhere',
    { ...both, inFactory: false, inUpdate: false, landing: { found, gone: false } },
    'kept-addition',
    'mine',
    'look',
  ],
  [
    'added, its section found by a guess',
    { ...both, inFactory: false, inUpdate: false, landing: { found: guessed, gone: false } },
    'kept-addition',
    'mine',
    'decide',
  ],
  [
    'added, its section only spelt otherwise',
    { ...both, inFactory: false, inUpdate: false, landing: { found: respelt, gone: false } },
    'kept-addition',
    'mine',
    null,
  ],
  [
    'added, its section gone',
    { ...both, inFactory: false, inUpdate: false, landing: { found: null, gone: true } },
    'kept-addition',
    'mine',
    'decide',
  ],
  ['added, nowhere to put it', { ...both, inFactory: false, inUpdate: false, landing: 'nowhere' }, 'kept-aside', 'aside', 'decide'],
  ['added, added too', { ...both, inFactory: false }, 'default-moved', 'mine', 'look'],
  ['as factory, removed', { ...both, inUpdate: false, mineIsFactory: true }, 'dropped', 'nothing', null],
  ['changed, found again, sure', { ...both, updateIsFactory: true, found }, 'moved', 'mine', 'look'],
  ['changed, found again, a guess', { ...both, updateIsFactory: true, found: guessed }, 'moved', 'mine', 'decide'],
  ['changed, only spelt otherwise', { ...both, updateIsFactory: true, found: respelt }, 'moved', 'mine', null],
  ['changed otherwise, only spelt otherwise', { ...both, found: respelt }, 'default-moved', 'mine', 'look'],
  ['changed, not found', { ...both, inUpdate: false }, 'kept-aside', 'aside', 'decide'],
  ['changed entry of a group, taken out', { ...both, inUpdate: false, entry: true }, 'kept-mine', 'mine', 'decide'],
  ['removed, as factory', { ...both, inMine: false, updateIsFactory: true }, 'stays-removed', 'nothing', null],
  ['removed, changed', { ...both, inMine: false }, 'stays-removed', 'nothing', 'decide'],
  ['removed, found again elsewhere', { ...both, inMine: false, found }, 'moved', 'update', 'decide'],
  ['removed, only spelt otherwise', { ...both, inMine: false, updateIsFactory: true, found: respelt }, 'stays-removed', 'nothing', null],
  ['a version stamp', { ...both, mineIsFactory: true, stamp: true }, 'stamp', 'update', null],
  ['a version stamp that I changed', { ...both, stamp: true }, 'stamp', 'update', 'look'],
  [
    'a new entry in a group of mine',
    { ...both, inFactory: false, inMine: false, entry: true, group: 'mine' },
    'offered',
    'nothing',
    'decide',
  ],
  [
    'a new entry beside those I added',
    { ...both, inFactory: false, inMine: false, entry: true, group: 'joined' },
    'added-by-update',
    'update',
    'look',
  ],
  [
    'a new entry where I took one out',
    { ...both, inFactory: false, inMine: false, entry: true, group: 'in-place' },
    'added-by-update',
    'update',
    'look',
  ],
  [
    'a new entry where I only edited',
    { ...both, inFactory: false, inMine: false, entry: true, group: null },
    'added-by-update',
    'update',
    null,
  ],
  ['mine in an item found by little', { ...both, updateIsFactory: true, doubt }, 'kept-mine', 'mine', 'decide'],
  ['removed from an item found by little', { ...both, inMine: false, updateIsFactory: true, doubt }, 'stays-removed', 'nothing', 'decide'],
  ['the update’s in an item found by little', { ...both, mineIsFactory: true, doubt }, 'took-update', 'update', null],
  ['no factory copy, differs', { ...both, baseline: false, inFactory: false }, 'kept-mine', 'mine', null],
]

describe('the table of carrying', () => {
  it.each(ROWS)('%s', (_name, facts, outcome, take, weight) => {
    const verdict = decide(facts)
    expect([verdict.outcome, verdict.take, verdict.weight]).toEqual([outcome, take, weight])
    expect(verdict.because.length > 0 || outcome === 'unchanged').toBe(true)
    expect(wordReasons(verdict.because)).not.toContain('undefined')
  })

  it.each([
    [
      { code: 'found', path: 'gate.fee', file: 'extras/Gangway/texts.yml', evidence: ['like-name', 'same-default'] },
      'it seems to be gate.fee in texts.yml now: a like name, the same default',
    ],
    [{ code: 'respelt', path: 'save-every' }, 'it is spelt save-every now'],
    [{ code: 'unit-changed', from: 'second', to: 'tick' }, 'it was in seconds and is now in ticks'],
    [{ code: 'kind-changed', from: 'a number', to: 'a list' }, 'it was a number and is now a list'],
    [{ code: 'unsure', how: 'place' }, 'it was found again only by its place in the list: compare it'],
  ] as const)('%j in words', (reason, words) => expect(wordReason(reason as Reason)).toBe(words))
})
