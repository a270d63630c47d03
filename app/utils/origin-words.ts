import type { Known } from '@pasticcio/core'

/** How the rule below a number says where it comes from, as classes of controls.css. */
export const ORIGIN_RULES: Readonly<Record<Known['from'], string>> = { typed: 't', records: 'r', inferred: 'i' }

/** The same in words. */
export const ORIGIN_WORDS: Readonly<Record<Known['from'], string>> = { typed: 'typed', records: 'read from records', inferred: 'inferred' }
