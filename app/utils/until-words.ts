import { instantOf } from '@pasticcio/core'
import { momentOf } from './moments'

/** When something ends, in words; as it is written where that is no date. */
export function untilWords(until: string): string {
  const at = instantOf(until)
  return at === null ? until : momentOf(new Date(at).toISOString())
}
