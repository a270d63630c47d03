import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { mount, type VueWrapper } from '@vue/test-utils'
import { readingFor } from '@pasticcio/core'
import SettingControl from '../../app/components/sheet/SettingControl.vue'
import StagedWhole from '../../app/components/review/StagedWhole.vue'
import { useServerStore } from '../../app/stores/server'
import { useSheetStore } from '../../app/stores/sheet'
import { drawnAt, kindOfPicture, namedWith, writtenAs } from '../../app/utils/fit-picture'
import type { SettingRow } from '../../app/utils/sheet-rows'
import type { NamedFile } from '../../app/utils/types'
import { answering, engineOf, overviewOf, viewOf } from './world'

const sizes = fc.record({ width: fc.integer({ min: 1, max: 4000 }), height: fc.integer({ min: 1, max: 4000 }) })

describe('a picture in another size', () => {
  it('keeps its proportions, is in the middle, and is whole, or fills all of it', () => {
    fc.assert(
      fc.property(sizes, sizes, fc.constantFrom('whole' as const, 'fill' as const), (from, to, fit) => {
        const { x, y, width, height } = drawnAt(from, to, fit)
        expect(width * from.height).toBeCloseTo(height * from.width, 3)
        expect(x * 2 + width).toBeCloseTo(to.width, 6)
        expect(y * 2 + height).toBeCloseTo(to.height, 6)
        const [least, most] = [Math.min(x, y), Math.max(x, y)]
        // one side touches both edges; the other lies within them, or beyond
        expect(fit === 'whole' ? least : most).toBeCloseTo(0, 6)
      }),
    )
  })

  it('stretched is all of it', () => {
    fc.assert(fc.property(sizes, sizes, (from, to) => void expect(drawnAt(from, to, 'stretch')).toEqual({ x: 0, y: 0, ...to })))
  })

  it.each([
    [['png'], 'jpg', 'png'],
    [[], 'webp', 'webp'],
    [[], 'gif', 'png'],
    [['jpg', 'png'], 'gif', 'png'],
    [['jpeg'], 'png', 'jpeg'],
    [['gif'], 'png', null],
  ])('where %j is taken, a %s is written as %s', (endings, own, as) => expect(writtenAs(endings, own)).toBe(as))

  it.each([
    ['C:\\pictures\\My gate!.jpeg', 'png', 'My-gate.png'],
    ['../../x.png', 'png', 'x.png'],
    ['.png', 'png', 'picture.png'],
    ['Tür über.JPG', 'jpg', 'Tür-über.jpg'],
  ])('%s is called for all systems', (name, ending, called) => expect(namedWith(name, ending)).toBe(called))

  it.each([
    ['\x89PNG\r\n', 'png'],
    ['\xff\xd8\xff\xe0', 'jpg'],
    ['GIF89a', 'gif'],
    ['RIFF1234WEBP', 'webp'],
    ['BM12', 'bmp'],
    ['<svg xmlns', null],
    ['', null],
  ])('%j begins a %s', (head, kind) => expect(kindOfPicture(Buffer.from(head, 'latin1'))).toBe(kind))
})

describe('the control of a picture and of a file', () => {
  const TEXT = '# A 64x64 PNG beside this file. Empty shows none.\npicture: gate.png\n# A file beside this one.\nsong-file: reed.ogg\n'
  const open: VueWrapper[] = []
  const file = (name: string, more: Partial<NamedFile> = {}): NamedFile => ({
    name,
    path: `extras/Purse/${name}`,
    size: 2048,
    picture: { kind: 'png', width: 64, height: 64 },
    staged: false,
    ...more,
  })
  function rowAt(pointer: string, text = TEXT): SettingRow {
    const { rows } = engineOf(text, { reading: readingFor('x.yml', null), factory: text }).sheet({
      from: 0,
      to: 9,
      onlyMine: false,
      focus: '',
    })
    return rows.find((row) => row.pointer === pointer) as SettingRow
  }
  async function control(pointer: string, files: readonly NamedFile[], text = TEXT): Promise<VueWrapper> {
    answering({
      'GET /file': viewOf(text),
      'GET /named': { folder: 'extras/Purse', files },
      'PUT /named': { name: 'new.ogg', path: 'extras/Purse/new.ogg', staged: true },
      'GET /tray': [],
      'GET /overview': overviewOf(),
    })
    await useSheetStore().open('extras/Purse/settings.yml')
    const wrapper = mount(SettingControl, { props: { row: rowAt(pointer, text), disabled: false, bad: false }, attachTo: document.body })
    open.push(wrapper as VueWrapper)
    await vi.dynamicImportSettled()
    for (let i = 0; i < 4; i++) await new Promise((resolve) => setImmediate(resolve))
    return wrapper as VueWrapper
  }
  beforeEach(() => useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() }))
  afterEach(() => {
    for (const wrapper of open.splice(0)) wrapper.unmount()
    vi.unstubAllGlobals()
  })

  it.each([
    [[file('gate.png')], '64 × 64 PNG'],
    [[file('gate.png', { staged: true })], '64 × 64 PNG, in the tray'],
    [[file('gate.png', { picture: { kind: 'png', width: 96, height: 64 } })], '96 × 64, the setting takes 64 × 64'],
    [[file('gate.png', { picture: null })], 'no picture that can be read'],
    [[file('other.png')], 'gate.png is not in extras/Purse yet'],
  ])('says what the picture is', async (files, words) => {
    const wrapper = await control('/picture', files as NamedFile[])
    expect(wrapper.text()).toContain(words)
    expect(wrapper.find('img').exists()).toBe(files[0]!.name === 'gate.png' && files[0]!.picture !== null)
  })

  it('picks another that is there, and refuses what is no picture', async () => {
    const wrapper = await control('/picture', [file('gate.png'), file('row.png')])
    const input = wrapper.get('input[role="combobox"]')
    await input.setValue('row')
    await input.trigger('keydown', { key: 'Enter' })
    expect(wrapper.emitted('set')).toEqual([['row.png']])
    const picker = wrapper.get('input[type="file"]')
    Object.defineProperty(picker.element, 'files', { value: [new File(['no picture'], 'notes.png')] })
    await picker.trigger('change')
    for (let i = 0; i < 6; i++) await new Promise((resolve) => setImmediate(resolve))
    expect(wrapper.get('[role="alert"]').text()).toContain('notes.png is no picture that can be read')
  })

  it('an empty one says what that means', async () => {
    expect((await control('/picture', [], TEXT.replace('gate.png', "''"))).text()).toMatch(/shows none|no picture/)
  })

  it('a file is uploaded to where the setting looks', async () => {
    const wrapper = await control('/song-file', [file('reed.ogg', { picture: null })])
    const picker = wrapper.get('input[type="file"]')
    Object.defineProperty(picker.element, 'files', { value: [new File(['x'], 'new.ogg')] })
    await picker.trigger('change')
    for (let i = 0; i < 6; i++) await new Promise((resolve) => setImmediate(resolve))
    expect(wrapper.emitted('set')).toEqual([['new.ogg']])
  })

  it('review shows a picture before and after, and says of another file that it is taken whole', async () => {
    const staged = { path: 'extras/Purse/gate.png', plugin: 'Purse', sha: 's', changedBy: 'x', drifted: true, after: 'reload' as const }
    const rest = { blocking: 0, held: [], asks: null, count: 1, changes: [], text: false }
    const wrapper = mount(StagedWhole, { props: { file: { ...staged, ...rest } } })
    open.push(wrapper as VueWrapper)
    expect(wrapper.findAll('img').map((img) => img.attributes('alt'))).toEqual(['As it is', 'As it will be'])
    expect(wrapper.get('[role="alert"]').text()).toContain('was changed on the server')
    await wrapper.get('img').trigger('error')
    expect(wrapper.findAll('figcaption').map((part) => part.text())).toEqual(['new'])
    await wrapper.setProps({ file: { ...staged, ...rest, path: 'a/song.ogg' } })
    expect(wrapper.text()).toContain('put there whole')
  })
})
