import { describe, expect, it } from 'vitest'
import Storage from '../../app/pages/storage.vue'
import { bytesOf } from '../../app/utils/bytes'
import { useSessionStore } from '../../app/stores/session'
import { button, show, text } from './pages'
import { answering, until } from './world'

describe('a size in words', () => {
  it.each([
    [0, '0 bytes'],
    [999, '999 bytes'],
    [1000, '1.0 KB'],
    [1536, '1.5 KB'],
    [23 * 1024 * 1024, '23 MB'],
    [1.4 * 1024 ** 3, '1.4 GB'],
    [3 * 1024 ** 5, '3072 TB'],
  ])('%d is %s', (bytes, words) => expect(bytesOf(bytes)).toBe(words))
})

describe('the page of the storage', () => {
  const sizes = {
    database: 5_000_000,
    free: 2048,
    packages: 3_000_000,
    factory: 40_000,
    drafts: 500,
    history: 90_000,
    unused: 70_000,
    changes: 12,
    keptChanges: 500,
  }

  it('says what is kept and what it takes, and clears what nobody needs', async () => {
    useSessionStore().me = { name: 'maren', role: 'owner', hasPassword: true }
    const { asked } = answering({
      'GET /api/me': { name: 'maren', role: 'owner', hasPassword: true },
      'GET /api/storage': sizes,
      'POST /api/storage/clear': { changes: 2, contents: 1, bytes: 70_000 },
    })
    show(Storage)
    await until(() => expect(text()).toContain('4.8 MB on the disk'))
    for (const words of ['Packages', '2.9 MB', '12 changes', 'the last 500 are kept']) expect(text()).toContain(words)
    button('Clear now').click()
    await until(() => expect(text()).toContain('Cleared 2 changes and 1 file nobody needs; 68 KB less on the disk.'))
    expect(asked.filter(({ key }) => key === 'GET /api/storage')).toHaveLength(2)
  })
})
