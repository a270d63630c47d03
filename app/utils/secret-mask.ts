import { SecretMask, formatOrText } from '@pasticcio/core'
import type { FileView } from './types'

/** Hides the secrets of a file somebody has open. It brings the readers of all formats along: import it when it is needed. */
export const maskOf = ({ path, reading, rules }: FileView, texts: readonly string[]): SecretMask =>
  new SecretMask({ format: formatOrText(path), reading, rules }, texts)
