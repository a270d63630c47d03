import { describe, expect, it } from 'vitest'
import { CHECKS, blocksWriting, checkFile, checkWorkspace, defineCheck, listFindings, workspaceFile, workspaceOf } from '../src/checks'
import { UNSAID } from '../src/formats/reading'
import { reread } from '../src/formats/reread'
import { setValue } from '../src/formats/operations'

const file = (path: string, text: string, factory: string | null = null) =>
  workspaceFile({ path, plugin: path.split('/')[0]!, text, factory, reading: UNSAID })

/*
 * The shortest check there is: two files that claim the same port. docs/extending.md shows it as the example; what finds
 * its findings is what finds all others.
 */
const onePortEach = defineCheck({
  id: 'one-port-each',
  scope: 'server',
  codes: ['port-twice'],
  *run(_workspace, facts) {
    const taken = new Map<number, { file: string; from: number; to: number }>()
    for (const { path, ports } of facts.values())
      for (const { port, from, to } of ports) {
        const first = taken.get(port)
        if (!first) taken.set(port, { file: path, from, to })
        else
          yield {
            code: 'port-twice',
            severity: 'error',
            file: path,
            from,
            to,
            message: `Port ${port} is taken by ${first.file}. Choose another one.`,
            related: [{ ...first, why: 'takes it first' }],
          }
      }
  },
})

describe('the list of checks', () => {
  it('finds what is wrong in every file, in the order of files and places', () => {
    const workspace = workspaceOf([
      file('Purse/b.yml', 'start: lots\nodd: "x\n', 'start: 5\n'),
      file('Purse/c.yml', 'start: lots\n', 'start: 5\n'),
      file('Purse/a.yml', 'interest: 7\n', '# From 0 to 1.\ninterest: 0.5\n'),
      file('Purse/unknown.bin', ''),
    ])
    expect(checkWorkspace(workspace).map(({ file: path, check, code }) => `${path} ${check} ${code}`)).toEqual([
      'Purse/a.yml keeps-rules out-of-range',
      // of what cannot be read nothing else is told
      'Purse/b.yml reads unclosed-quote',
      'Purse/c.yml keeps-rules number-expected',
    ])
    expect(checkWorkspace(workspace, { changed: ['Purse/a.yml'] }).map((finding) => finding.file)).toEqual(['Purse/a.yml'])
  })

  it('takes a check of the whole server, which names places in other files', () => {
    const workspace = workspaceOf([file('a/a.yml', 'port: 1\n'), file('b/b.yml', 'port: 2\n'), file('c/c.yml', 'port: 1\n')])
    // only one file changed, and still all are looked at
    const found = checkWorkspace(workspace, {
      changed: ['b/b.yml'],
      checks: [...CHECKS.filter(({ id }) => id !== 'ports-fit'), onePortEach],
    })
    expect(found).toMatchObject([{ file: 'c/c.yml', check: 'one-port-each', related: [{ file: 'a/a.yml', why: 'takes it first' }] }])
  })

  it('holds back only what does not read', () => {
    const workspace = workspaceOf([file('a.yml', 'a: "x\n', 'a: x\n'), file('b.yml', 'b: lots\n', 'b: 5\n'), file('c.yml', 'd: no\n')])
    const found = checkWorkspace(workspace)
    expect(found.filter(blocksWriting).map((finding) => finding.check)).toEqual(['reads'])
    expect(found.length).toBe(3)
  })

  it('says only codes that checks declare', () => {
    const said = new Map(CHECKS.map((check) => [check.id, new Set<string>(check.codes)]))
    const texts = [
      'a: [1, 2\nb: 3\n',
      'a:\n\tb: 1\n',
      'a: 1\na: 2\n',
      'a: *x\n',
      'a: lots\nb: 5\n',
      'a: yes\n',
      'k:v\n',
      'a: &x 1 # c\n',
      '- a\n b: c\n',
    ]
    for (const text of texts)
      for (const { check, code } of checkWorkspace(workspaceOf([file('a.yml', text, 'a: 5\nb: text\n')])))
        expect(said.get(check)!.has(code), `${check} says ${code}`).toBe(true)
  })

  it('after an edit finds what a full look finds', () => {
    const factory = '# From 1 to 9.\nfirst: 5\nsecond: 5\nthird: 5\n'
    const before = file('a.yml', factory.replace('third: 5', 'third: 50'), factory)!
    const findings = checkFile(workspaceOf([before]), before)
    const { document, changes } = reread(before.document, setValue(before.document, ['first'], 12))
    const after = { ...before, document }
    const again = listFindings('a.yml', checkFile(workspaceOf([after]), after, { findings, changes }))
    const whole = file('a.yml', document.text, factory)!
    expect(again).toEqual(listFindings('a.yml', checkFile(workspaceOf([whole]), whole)))
    expect(again.map((finding) => finding.code)).toEqual(['out-of-range'])
  })
})
