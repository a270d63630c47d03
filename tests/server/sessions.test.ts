import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addressKey } from '../../server/utils/sessions'

describe('the address that attempts are counted by', () => {
  it.each([
    ['192.0.2.7', '192.0.2.7'],
    ['::ffff:192.0.2.7', '192.0.2.7'],
    ['2001:db8:1:2:3:4:5:6', '2001:db8:1:2::/64'],
    ['2001:db8::1', '2001:db8:0:0::/64'],
    ['2001:0db8:0001:0002::', '2001:db8:1:2::/64'],
    ['fe80::1%eth0', 'fe80:0:0:0::/64'],
    ['::1', '0:0:0:0::/64'],
    ['unknown', 'unknown'],
  ])('takes %s for %s', (address, key) => expect(addressKey(address)).toBe(key))

  it('takes all addresses of one network for one', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 0xffff }), { minLength: 8, maxLength: 8 }),
        fc.integer({ min: 0, max: 0xffff }),
        (groups, last) => {
          const write = (all: readonly number[]): string => all.map((group) => group.toString(16)).join(':')
          expect(addressKey(write([...groups.slice(0, 7), last]))).toBe(addressKey(write(groups)))
        },
      ),
    )
  })
})
