import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DOTS, SecretMask, UNSAID, type FormatId, type Rule } from '../src'

const maskOf = (format: FormatId, texts: string[], rules: Rule[] = []): SecretMask =>
  new SecretMask({ format, reading: UNSAID, rules }, texts)

/** The same settings, written in each format around a secret as it stands there. */
const FILES: readonly (readonly [FormatId, (secret: string) => string])[] = [
  ['yaml', (secret) => `# The bridge\nname: Reed Row\nbridge:\n  port: 4100\n  password: "${secret}" # never share it\n  level: low\n`],
  ['json', (secret) => `{\n  "name": "Reed Row",\n  "bridge": { "port": 4100, "password": "${secret}", "level": "low" }\n}\n`],
  ['lua', (secret) => `return {\n  name = "Reed Row",\n  bridge = { port = 4100, password = "${secret}", level = "low" },\n}\n`],
]
const secrets = fc.stringMatching(/^[a-zA-Z0-9!?+/_-]{1,40}$/)

describe('secrets', () => {
  it.each(FILES)('in %s nothing of one is told, and nothing else is another', (format, fileWith) => {
    fc.assert(
      fc.property(secrets, (secret) => {
        const text = fileWith(secret)
        const shown = maskOf(format, [text]).text(text)
        const [before, after] = fileWith('\0').split('\0')
        // what stands where the secret stood, with its quotes, is the dots and nothing else
        expect(shown).toBe(before!.slice(0, -1) + DOTS + after!.slice(1))
      }),
    )
  })

  it.each(FILES)('in %s one that changed says so, and one that did not says nothing', (format, fileWith) => {
    fc.assert(
      fc.property(secrets, secrets, (was, is) => {
        const [before, after] = [fileWith(was), fileWith(is)]
        const mask = maskOf(format, [before, after])
        expect(mask.text(after, before).includes('(changed)')).toBe(was !== is)
        expect(mask.text(before)).toBe(mask.text(after))
      }),
    )
  })

  it('copies of it are hidden too: in comments, in other texts, and in words about it', () => {
    const before = 'token: reed-and-clay\n'
    const after = '# token: reed-and-clay\ntoken: other-reed-1\nmotto: say reed-and-clay\n'
    const mask = maskOf('yaml', [before, after])
    expect(mask.text(after, before)).toBe(`# token: ${DOTS}\ntoken: ${DOTS} (changed)\nmotto: say ${DOTS}\n`)
    expect(mask.words('was reed-and-clay before')).toBe(`was ${DOTS} before`)
  })

  it('changes tell where and that, and not what', () => {
    const mask = maskOf('yaml', ['bridge:\n  password: secret-reed\n  port: 1\n', 'bridge:\n  password: secret-clay\n  port: 2\n'])
    expect(
      mask.change({
        path: '/bridge/password',
        factory: 'secret-reed',
        mine: 'secret-clay',
        reason: 'secret-clay was kept',
        because: [{ code: 'kept', value: 'secret-clay' }],
        options: [{ id: 'mine', value: 'secret-clay' }, { id: 'drop' }],
      }),
    ).toEqual({
      path: '/bridge/password',
      factory: DOTS,
      mine: DOTS,
      reason: `${DOTS} was kept`,
      because: [{ code: 'kept', value: DOTS }],
      options: [{ id: 'mine', value: DOTS }, { id: 'drop' }],
    })
    expect(mask.change({ path: '/bridge', mine: { password: 'any', port: 2 } })).toEqual({
      path: '/bridge',
      mine: { password: DOTS, port: 2 },
    })
    expect(mask.change({ path: '/bridge/password', kind: 'comment', mine: '# mine: secret-clay' })).toMatchObject({
      mine: `# mine: ${DOTS}`,
    })
    expect(mask.change({ path: '/bridge/port', factory: 1, mine: 2 })).toEqual({ path: '/bridge/port', factory: 1, mine: 2 })
  })

  it('lists of secrets, those only somebody says are secret, and empty ones', () => {
    const text = 'tokens: [reed-token-1, clay-token-2]\npin: 1234\npassword: ""\n'
    const said = ['/pin', '/tokens'].map((path): Rule => ({ path, means: 'secret', source: 'yours' }))
    expect(maskOf('yaml', [text], said).text(text)).toBe(`tokens: [${DOTS}, ${DOTS}]\npin: ${DOTS}\npassword: ""\n`)
    expect(maskOf('yaml', [text]).text(null)).toBeNull()
    expect(maskOf('yaml', []).value('', '/password')).toBe('')
  })

  it('a text that does not read is hidden as far as it does', () => {
    const text = 'password: reed-secret\nlist: [1, 2\nother: x\n'
    expect(maskOf('yaml', [text]).text(text)).not.toContain('reed-secret')
  })
})
