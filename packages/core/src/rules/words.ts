/** A setting's name in plain words: `save-every` and `saveEvery` become "Save every", an XML attribute `@id` "Id". */
export function plainLabel(key: string): string {
  const words = key
    .replace(/^[@#](?=\p{L})/u, '')
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .replace(/[-_.]+/g, ' ')
    .trim()
  if (words === '' || words === words.toUpperCase()) return words || key
  return words.charAt(0).toUpperCase() + words.slice(1).toLowerCase()
}
