/** A word of a command line as it is typed: in quotes where it holds blanks or quotes. One with both kinds of quotes cannot be typed. */
export function quotedWord(word: string): string {
  if (word !== '' && !/[\s"']/.test(word)) return word
  return word.includes('"') ? `'${word}'` : `"${word}"`
}
