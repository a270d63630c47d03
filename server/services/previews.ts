import {
  OperationError,
  getNode,
  isTextAction,
  parse,
  formatOrText,
  readingFor,
  resolveAction,
  type FileAction,
  type PlanPart,
} from '@pasticcio/core'
import type { Server } from './context'
import { ServiceError } from './errors'
import { SIZES } from './sizes'
import { decode } from './text'

/** A text file as it is, and as it would be. */
export interface TextPreview {
  readonly path: string
  readonly before: string | null
  readonly after: string | null
}

/** What a part of a plan comes to on the files as they are. */
export interface PartPreview {
  /** So many files are put, and of these so many have nothing in their place yet. */
  readonly puts: number
  readonly texts: readonly TextPreview[]
  /** Files, or settings of files as `path#/key`, that are there already and stay as they are. */
  readonly leftAsIs: readonly string[]
  /** Files that are there and would be replaced. */
  readonly replaced: readonly string[]
}

/** Works parts out on the server's files, one after the other, without writing. */
export async function previewOf<P extends PlanPart>(server: Server, steps: readonly (readonly P[])[]): Promise<(P & PartPreview)[][]> {
  const preview = new Preview(server)
  const shown: (P & PartPreview)[][] = []
  for (const parts of steps) {
    const row: (P & PartPreview)[] = []
    for (const part of parts) row.push({ ...part, ...(await preview.part(part.actions)) })
    shown.push(row)
  }
  return shown
}

class Preview {
  /** Texts as they would be by now; null for files that are not there. */
  private readonly texts = new Map<string, string | null>()

  constructor(private readonly server: Server) {}

  async part(actions: readonly FileAction[]): Promise<PartPreview> {
    const before = new Map<string, string | null>()
    const leftAsIs: string[] = []
    const replaced: string[] = []
    let puts = 0
    for (const action of actions) {
      if (isTextAction(action)) {
        const now = await this.text(action.path)
        if (!before.has(action.path)) before.set(action.path, now)
        if (action.kind === 'entry' && action.present && this.isSet(action, now)) leftAsIs.push(`${action.path}#/${action.at.join('/')}`)
        this.texts.set(action.path, this.resolved(action, now))
      } else if (action.kind === 'put') {
        const isThere = (await this.server.place.stat(action.path)) !== null
        if (isThere && action.ifAbsent) leftAsIs.push(action.path)
        else if (isThere) replaced.push(action.path)
        if (!isThere || !action.ifAbsent) puts++
      }
    }
    const texts = [...before].map(([path, was]) => ({ path, before: was, after: this.texts.get(path) ?? null }))
    return { puts, texts: texts.filter((text) => text.before !== text.after), leftAsIs, replaced }
  }

  private async text(path: string): Promise<string | null> {
    if (this.texts.has(path)) return this.texts.get(path)!
    const bytes = await this.server.place.read(path, SIZES.settings)
    return bytes ? decode(path, bytes) : null
  }

  private isSet({ path, at }: { readonly path: string; readonly at: readonly string[] }, now: string | null): boolean {
    return now !== null && getNode(parse(now, formatOrText(path), readingFor(path, this.server.family)), at) !== null
  }

  private resolved(action: Parameters<typeof resolveAction>[0], now: string | null): string | null {
    try {
      return resolveAction(action, now, readingFor(action.path, this.server.family))
    } catch (error) {
      if (!(error instanceof OperationError)) throw error
      throw new ServiceError('has-errors', 422, `${action.path} cannot be changed: ${error.message}.`, { cause: error })
    }
  }
}
