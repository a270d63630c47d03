/** Takes markup off, as a console shows it. */
export function plainText(text: string): string {
  return text.replaceAll('[br]', '\n').replace(/\[\/?[a-z]*\]/g, '')
}
