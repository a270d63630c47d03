import { vi } from 'vitest'
import { SheetEngine, type EngineInput } from '../../app/drafts/engine'
import type { DraftView, FileView, Overview } from '../../app/utils/types'
import { UNSAID } from '@pasticcio/core'

/** A settings file as the server gives it. */
export function viewOf(text: string, more: Partial<FileView> = {}): FileView {
  return {
    path: 'extras/Purse/settings.yml',
    plugin: 'Purse',
    version: '1.8.0',
    text,
    sha: 'base',
    factory: text,
    others: null,
    draft: null,
    update: null,
    record: false,
    after: 'reload',
    rewritten: null,
    rules: [],
    reading: UNSAID,
    ...more,
  }
}

export function draftView(text: string, sha = 'theirs', changedBy = 'maren'): DraftView {
  return { text, sha, baseSha: 'base', changedBy }
}

/** The engine of a file, as the worker has it. */
export function engineOf(text: string, more: Partial<EngineInput> = {}): SheetEngine {
  return new SheetEngine({
    path: 'extras/Purse/settings.yml',
    plugin: 'Purse',
    reading: UNSAID,
    text,
    base: text,
    factory: text,
    update: null,
    checked: true,
    ...more,
  })
}

export function overviewOf(more: Partial<Overview> = {}): Overview {
  const file = (path: string, record = false) => ({
    path,
    name: path.split('/').pop()!,
    settings: 9,
    mine: 2,
    errors: 0,
    warnings: 0,
    staged: false,
    record,
    problem: null,
  })
  const plugin = (name: string, files: string[], update: { to: string; packageId: number } | null = null) => ({
    name,
    version: '1.0.0',
    summary: '',
    authors: [],
    files: files.map((path) => file(path)),
    mine: 2,
    folder: name,
    isUnpacked: false,
    isOff: false,
    canSwitch: true,
    packageId: 1,
    problems: [],
    run: null,
    update,
  })
  return {
    slug: 'lantern-row',
    title: 'Archive plugins',
    game: '7.2',
    folder: '/srv',
    plugins: [
      plugin('Purse', ['extras/Purse/settings.yml']),
      plugin('Hampers', ['extras/Hampers/lang/en gb.yml'], { to: '3.0.0', packageId: 7 }),
    ],
    staged: 0,
    ...more,
  }
}

type Answer = unknown | ((body: unknown, url: string) => unknown)

/** Answers of the API by `METHOD path`; what was asked is kept. A thrown `{ status, ...problem }` becomes a problem. */
export function answering(answers: Record<string, Answer>): { readonly asked: { readonly key: string; readonly body: unknown }[] } {
  const asked: { key: string; body: unknown }[] = []
  vi.stubGlobal('fetch', async (url: string, init: RequestInit = {}) => {
    const key = `${init.method ?? 'GET'} ${url.split('?')[0]!.replace('/api/servers/lantern-row', '')}`
    const body = typeof init.body === 'string' ? (JSON.parse(init.body) as unknown) : init.body
    asked.push({ key, body })
    // few tests have anything that goes by command
    if (key === 'GET /tray/commands' && !(key in answers)) return Response.json([])
    if (!(key in answers)) throw new TypeError('failed to fetch')
    try {
      const answer = answers[key]
      return Response.json(typeof answer === 'function' ? await (answer as (body: unknown, url: string) => unknown)(body, url) : answer)
    } catch (thrown) {
      const { status, ...problem } = thrown as { status: number }
      return Response.json(problem, { status })
    }
  })
  return { asked }
}

/** Where the app went, in order. */
export const navigated: string[] = []

/** Waits until something holds, however busy the machine is. */
export const until = (check: () => void): Promise<void> => vi.waitFor(check, { timeout: 30_000 })
