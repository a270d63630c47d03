import { describe, expect, it, vi } from 'vitest'
import { chordsOf, runKey } from '../../app/composables/use-keys'

/** A key pressed in an element of a page. */
function pressed(key: string, where = '<main></main>', more: KeyboardEventInit = {}): KeyboardEvent {
  document.body.innerHTML = where
  const event = new KeyboardEvent('keydown', { key, cancelable: true, bubbles: true, ...more })
  document.body.firstElementChild!.dispatchEvent(event)
  return event
}

describe('single keys', () => {
  it.each([
    ['a page', '<main></main>', {}, true],
    ['a text field', '<input>', {}, false],
    ['a switch', '<input type="checkbox">', {}, true],
    ['a choice', '<div role="combobox"></div>', {}, false],
    ['a dialog', '<div role="dialog"></div>', {}, false],
    ['a page, with alt', '<main></main>', { altKey: true }, false],
  ] as const)('in %s', (_name, where, more, runs) => {
    const run = vi.fn()
    const event = pressed('f', where, more)
    runKey({ f: run }, event)
    expect(run.mock.calls.length).toBe(runs ? 1 : 0)
    expect(event.defaultPrevented).toBe(runs)
  })

  it('with a modifier count everywhere, under their own name', () => {
    const [plain, modified] = [vi.fn(), vi.fn()]
    runKey({ z: plain, 'ctrl+z': modified }, pressed('z', '<input>', { ctrlKey: true }))
    expect([plain.mock.calls.length, modified.mock.calls.length]).toEqual([0, 1])
  })

  it('that are left to others are not taken from them', () => {
    const event = pressed('Enter')
    runKey({ Enter: () => false }, event)
    expect(event.defaultPrevented).toBe(false)
  })
})

describe('two keys', () => {
  it('the second one counts after the first, once', () => {
    const [station, single] = [vi.fn(), vi.fn()]
    const keys = { ...chordsOf('g', { u: station }), u: single }
    runKey(keys, pressed('g'))
    runKey(keys, pressed('u'))
    runKey(keys, pressed('u'))
    expect([station.mock.calls.length, single.mock.calls.length]).toEqual([1, 1])
  })

  it('another key ends the waiting', () => {
    const station = vi.fn()
    const keys = { ...chordsOf('g', { u: station }), x: () => undefined }
    runKey(keys, pressed('g'))
    runKey(keys, pressed('x'))
    runKey(keys, pressed('u'))
    expect(station).not.toHaveBeenCalled()
  })
})
