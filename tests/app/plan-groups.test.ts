import { describe, expect, it } from 'vitest'
import type { Decision } from '@pasticcio/core'
import { brief, groupPlan } from '../../app/utils/plan-groups'
import type { UpdatePlan } from '../../app/utils/types'

const decision = (more: Partial<Decision>): Decision => ({
  id: more.path ?? '/x',
  path: '/pause',
  outcome: 'kept-mine',
  attention: false,
  reason: 'you set it',
  because: [],
  ...more,
})
const plan = (decisions: readonly Decision[]): UpdatePlan =>
  ({ files: [{ path: 'extras/Hampers/settings.yml', decisions }] }) as unknown as UpdatePlan

describe('the groups of a plan', () => {
  it('what is to be decided first, then what is worth a look, then the rest', () => {
    const groups = groupPlan(
      plan([
        decision({ path: '/a' }),
        decision({ path: '/b', attention: true, weight: 'look', outcome: 'default-moved' }),
        decision({ path: '/c', attention: true, weight: 'decide', outcome: 'kept-aside' }),
        decision({ path: '/d', outcome: 'took-update' }),
        decision({ path: '/e', outcome: 'added-by-update' }),
        decision({ path: '/f', chosen: 'mine', outcome: 'scale-changed' }),
      ]),
    )
    expect(groups.map((group) => [group.id, group.rows.map((row) => row.decision.path).join()])).toEqual([
      ['decide', '/c,/f'],
      ['told', '/b'],
      ['kept', '/a'],
      ['new', '/e'],
      ['followed', '/d'],
    ])
    expect(groups[0]!.rows.map((row) => [row.open, row.decided])).toEqual([
      [true, false],
      [false, true],
    ])
  })

  it.each([
    [undefined, '–'],
    ['', 'empty'],
    [['reed', 'clay'], 'reed, clay'],
    [[{ a: 1 }], '1 entries'],
    [{ a: 1, b: 2 }, '2 lines'],
    [5, '5'],
  ])('%j in brief', (value, text) => expect(brief(value)).toBe(text))
})
