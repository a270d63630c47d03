import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { DraftChanged, createDraft, type Draft, type Kept } from '../../app/drafts/draft'
import type { Operation, OperationResult } from '../../app/drafts/engine'
import type { SavedDraft } from '../../app/utils/types'
import { draftView, engineOf, viewOf } from './world'

const TEXT = '# Marks a newcomer has.\nstart: 250\nmost: 50\n'

describe('a draft', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  function make(keep: (kept: Kept) => Promise<string | null | SavedDraft> = async () => 'sha 1', view = viewOf(TEXT)) {
    const kept: Kept[] = []
    const draft = createDraft(view, {
      engine: engineOf(view.draft?.text ?? view.text),
      keep: async (input) => {
        kept.push(input)
        const answer = await keep(input)
        return typeof answer === 'object' && answer !== null ? answer : { draftSha: answer, baseSha: input.baseSha, merged: null }
      },
    })
    return { draft, kept }
  }
  const type = (draft: Draft, text: string): void => {
    const from = draft.text.value.length
    draft.edit([{ from, to: from, insert: text }])
  }

  it('waits a moment after the last change, then is kept once', async () => {
    const { draft, kept } = make()
    expect(draft.state.value).toBe('clean')
    for (const letter of '# abc') type(draft, letter)
    expect(draft.state.value).toBe('waiting')
    await vi.advanceTimersByTimeAsync(349)
    expect(kept).toEqual([])
    await vi.advanceTimersByTimeAsync(1)
    expect(kept).toEqual([{ path: 'extras/Purse/settings.yml', text: TEXT + '# abc', baseSha: 'base', draftSha: null }])
    expect(draft.state.value).toBe('kept')
  })

  it('each save is made from the one before, one at a time, and what is typed meanwhile follows', async () => {
    let answer: (sha: string) => void = () => undefined
    const { draft, kept } = make(() => new Promise((resolve) => (answer = resolve)))
    type(draft, '# a')
    const flushing = draft.flush()
    await vi.advanceTimersByTimeAsync(0)
    type(draft, 'b')
    await vi.advanceTimersByTimeAsync(5000)
    expect(kept.length).toBe(1)
    answer('sha 1')
    await flushing
    expect(draft.state.value).toBe('waiting')
    await vi.advanceTimersByTimeAsync(350)
    expect(kept[1]).toMatchObject({ text: TEXT + '# ab', draftSha: 'sha 1' })
  })

  it('goes on from a draft that is there', async () => {
    const view = viewOf(TEXT, { draft: { ...draftView(TEXT + '# old'), sha: 'old' } })
    const { draft, kept } = make(async () => null, view)
    expect([draft.text.value, draft.state.value]).toEqual([TEXT + '# old', 'kept'])
    type(draft, '!')
    await draft.flush()
    expect(kept[0]).toMatchObject({ draftSha: 'old', baseSha: 'base' })
    expect(draft.state.value).toBe('clean')
  })

  it('runs operations in their order, each on what the one before left', async () => {
    const { draft } = make()
    const done = ['1', '12', '123'].map((number) => draft.operate({ kind: 'set', pointer: '/start', value: { number } }))
    expect(await Promise.all(done)).toEqual([true, true, true])
    expect(draft.text.value).toBe(TEXT.replace('250', '123'))
    expect(await draft.operate({ kind: 'duplicate', pointer: '/none', name: 'x' })).toBe(false)
    expect(draft.problem.value).toContain('there is no setting /none')
  })

  it('what was typed while an operation was worked out is not lost', async () => {
    const view = viewOf(TEXT)
    const engine = engineOf(TEXT)
    let asked = 0
    const draft = createDraft(view, {
      engine: {
        edit: (edits) => engine.edit(edits),
        operate: async (operation) => {
          const result = engine.operate(operation)
          if (asked++ === 0) draft.edit([{ from: 0, to: 0, insert: '# typed\n' }])
          return result
        },
      },
      keep: async () => ({ draftSha: 'sha', baseSha: 'base', merged: null }),
    })
    await draft.operate({ kind: 'set', pointer: '/most', value: { number: '7' } })
    expect(draft.text.value).toBe('# typed\n' + TEXT.replace('most: 50', 'most: 7'))
    expect(asked).toBe(2)
  })

  it('undoes and redoes every change, to the byte', () => {
    const edit = fc.record({ at: fc.nat(), cut: fc.nat(6), insert: fc.string({ maxLength: 6 }) })
    fc.assert(
      fc.property(fc.array(edit, { minLength: 1, maxLength: 8 }), (edits) => {
        const { draft } = make()
        const texts = [draft.text.value]
        for (const { at, cut, insert } of edits) {
          const from = at % (draft.text.value.length + 1)
          draft.edit([{ from, to: Math.min(draft.text.value.length, from + cut), insert }])
          texts.push(draft.text.value)
        }
        for (let i = texts.length - 2; i >= 0; i--) {
          draft.undo()
          expect(draft.text.value).toBe(texts[i])
        }
        draft.undo()
        for (const text of texts.slice(1)) {
          draft.redo()
          expect(draft.text.value).toBe(text)
        }
        draft.close()
      }),
      { numRuns: 60 },
    )
  })

  describe('brought together with what somebody else did', () => {
    const merged = (text: string) => ({ draftSha: 'both', baseSha: 'base', merged: { text, with: 'maren', sentSha: 'mine' } })

    it('has the text of both, and goes on from it', async () => {
      const { draft, kept } = make(async ({ text }) => merged(text.replace('most: 50', 'most: 60')))
      type(draft, '# mine\n')
      await draft.flush()
      expect([draft.text.value, draft.state.value]).toEqual([TEXT.replace('most: 50', 'most: 60') + '# mine\n', 'kept'])
      await vi.advanceTimersByTimeAsync(5000)
      expect(kept.length).toBe(1)
      // what somebody else did is not taken out by going back
      draft.undo()
      expect(draft.text.value).toContain('most: 60')
      type(draft, '# more\n')
      await draft.flush()
      expect(kept[1]).toMatchObject({ draftSha: 'both' })
    })

    it('what is typed while it comes is made from what was sent', async () => {
      let answer: (saved: SavedDraft) => void = () => undefined
      const { draft, kept } = make(() => new Promise((resolve) => (answer = resolve)))
      type(draft, '# mine\n')
      const flushing = draft.flush()
      await vi.advanceTimersByTimeAsync(0)
      type(draft, '# later\n')
      answer(merged(TEXT.replace('most: 50', 'most: 60') + '# mine\n'))
      await flushing
      expect([draft.text.value, draft.state.value]).toEqual([TEXT + '# mine\n# later\n', 'waiting'])
      await vi.advanceTimersByTimeAsync(350)
      expect(kept[1]).toMatchObject({ text: TEXT + '# mine\n# later\n', draftSha: 'mine' })
    })
  })

  describe('in conflict with somebody else', () => {
    const conflicting = () => {
      let calls = 0
      return make(async () => {
        if (calls++ === 0) throw new DraftChanged('maren was here', draftView(TEXT.replace('most: 50', 'most: 60')))
        return 'after'
      })
    }

    it('holds both sides, and sends nothing more until somebody chooses', async () => {
      const { draft, kept } = conflicting()
      type(draft, '# mine\n')
      await draft.flush()
      expect(draft.state.value).toBe('conflict')
      expect(draft.theirs.value?.text).toContain('most: 60')
      type(draft, '# more\n')
      await vi.advanceTimersByTimeAsync(5000)
      expect(kept.length).toBe(1)
      expect(draft.text.value).toContain('# mine\n# more\n')
    })

    it('keeps mine over theirs, knowingly', async () => {
      const { draft, kept } = conflicting()
      type(draft, '# mine\n')
      await draft.flush()
      await draft.settle('mine')
      expect(kept[1]).toMatchObject({ text: TEXT + '# mine\n', draftSha: 'theirs' })
      expect([draft.state.value, draft.theirs.value, draft.problem.value]).toEqual(['kept', null, ''])
    })

    it('goes on with theirs, and undo has mine', async () => {
      const { draft } = conflicting()
      type(draft, '# mine\n')
      await draft.flush()
      await draft.settle('theirs')
      expect(draft.text.value).toBe(TEXT.replace('most: 50', 'most: 60'))
      draft.undo()
      expect(draft.text.value).toBe(TEXT + '# mine\n')
    })
  })

  it('keeps what could not be sent, says why, and tries again with the next change', async () => {
    let broken = true
    const { draft, kept } = make(async () => {
      if (broken) throw new Error('Pasticcio does not answer.')
      return 'sha'
    })
    type(draft, '# a')
    await draft.flush()
    expect([draft.state.value, draft.problem.value]).toEqual(['failed', 'Pasticcio does not answer.'])
    broken = false
    type(draft, 'b')
    await draft.flush()
    expect(kept.at(-1)?.text).toBe(TEXT + '# ab')
    expect([draft.state.value, draft.problem.value]).toEqual(['kept', ''])
  })

  it('gives what waits to a page that is being left, once', () => {
    const { draft } = make()
    expect(draft.takeWaiting()).toBeNull()
    type(draft, '# a')
    expect(draft.takeWaiting()).toMatchObject({ text: TEXT + '# a', draftSha: null })
    expect(draft.takeWaiting()).toBeNull()
  })

  it('gives such a page what is on its way, and what was stopped just now, too', async () => {
    let stop: (why: Error) => void = () => undefined
    const { draft } = make(() => new Promise((_, reject) => (stop = reject)))
    type(draft, '# a')
    void draft.flush()
    await vi.advanceTimersByTimeAsync(0)
    expect(draft.state.value).toBe('saving')
    expect(draft.takeWaiting()).toMatchObject({ text: TEXT + '# a' })
    stop(new Error('stopped'))
    await vi.advanceTimersByTimeAsync(0)
    expect(draft.state.value).toBe('failed')
    expect(draft.takeWaiting()).toMatchObject({ text: TEXT + '# a' })
  })

  it('gives what was begun to a page that is being left, and does not do it any more', async () => {
    const answers: ((result: OperationResult) => void)[] = []
    const view = viewOf(TEXT)
    const draft = createDraft(view, {
      engine: { edit: () => undefined, operate: () => new Promise((answer) => answers.push(answer)) },
      keep: async ({ baseSha }) => ({ draftSha: 'sha', baseSha, merged: null }),
    })
    const set = (value: string): Operation => ({ kind: 'set', pointer: '/start', value })
    const done = [draft.operate(set('1')), draft.operate(set('2')), draft.operate(set('3'))]
    await vi.advanceTimersByTimeAsync(0)
    answers[0]!({ edits: [{ from: 0, to: 0, insert: '# one' }] } as never)
    await vi.advanceTimersByTimeAsync(0)
    expect(draft.takeBegun()).toEqual([set('2'), set('3')])
    expect(draft.takeBegun()).toEqual([])
    answers[1]!({ edits: [{ from: 0, to: 0, insert: '# two' }] } as never)
    await vi.advanceTimersByTimeAsync(0)
    answers[2]!({ edits: [{ from: 0, to: 0, insert: '# three' }] } as never)
    expect(await Promise.all(done)).toEqual([true, false, false])
    expect(draft.text.value).toBe('# one' + TEXT)
    const again = set('4')
    const twice = [draft.operate(again), draft.operate(again)]
    await vi.advanceTimersByTimeAsync(0)
    answers[3]!({ edits: [{ from: 0, to: 0, insert: '# 4' }] } as never)
    await vi.advanceTimersByTimeAsync(0)
    answers[4]!({ edits: [{ from: 0, to: 0, insert: '# 4' }] } as never)
    expect(await Promise.all(twice)).toEqual([true, true])
  })

  it('sends nothing after it was closed', async () => {
    const { draft, kept } = make()
    type(draft, '# a')
    draft.close()
    await vi.advanceTimersByTimeAsync(5000)
    expect(kept).toEqual([])
  })
})
