/**
 * How many characters of a text players see: without its codes, and a letter with its accent as one.
 * @param codes what is no text, as the family's description says
 */
export function seenLength(text: string, codes: RegExp | null): number {
  const plain = codes ? text.replace(codes, '') : text
  return [...plain.normalize('NFC')].length
}
