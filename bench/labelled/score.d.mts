import type { Document, Rule } from '@pasticcio/core'

type Labels = Readonly<Record<string, string>>
type Files = readonly (readonly [path: string, labels: Labels])[]
interface Count {
  right: number
  said: number
  wanted: number
}

export const PARTS: readonly string[]
export function labelledSets(readers: {
  read(path: string): Document
  data(document: Document): unknown
}): readonly { readonly name: string; readonly files: Files }[]
export function score(
  files: Files,
  ruleOf: (path: string, pointer: string) => Rule | null,
): { readonly counts: Readonly<Record<string, Count>>; readonly wrong: string[]; readonly settings: number; readonly plain: number }
