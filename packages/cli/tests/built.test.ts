import { execFileSync, spawnSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'

const BIN = 'packages/cli/bin/pasticcio.mjs'

/** The program as people run it, as the packages' build makes it. */
describe('pasticcio as it was built', () => {
  it('starts, and says its version and its commands', () => {
    expect(execFileSync(process.execPath, [BIN, '--version'], { encoding: 'utf8' })).toMatch(/^\d+\.\d+\.\d+\n$/)
    expect(execFileSync(process.execPath, [BIN, '--help'], { encoding: 'utf8' })).toContain('check')
  })

  it('checks a server, and opens its packages', () => {
    const args = ['check', 'packages/standin/demo/bundles', '--family', 'families/archive.yml', '--json']
    const { status, stdout, stderr } = spawnSync(process.execPath, [BIN, ...args], { encoding: 'utf8' })
    expect([status, stderr]).toEqual([0, ''])
    expect(JSON.parse(stdout)).toBeInstanceOf(Array)
  })
})
