/** Whether a text is a rule sheet, which names its plugin; else it is a description of one file. */
export const isSheet = (text: string): boolean => /^plugin\s*:/m.test(text) && !/^\s*[[{]/.test(text)

/** Whether a description is called after a settings file: `lanterns.schema.json` after `lanterns.yml`. */
export function isCalledAfter(description: string, path: string): boolean {
  const bare = (name: string): string => name.split('/').pop()!.toLowerCase().split('.')[0]!
  return bare(description) === bare(path)
}
