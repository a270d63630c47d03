/** A JSON Pointer as people read it, `prices.oil`; other words where it names the whole. */
export const pointerWords = (pointer: string, whole = ''): string => pointer.slice(1).replaceAll('/', '.') || whole

/** Where a setting is shown in its sheet. */
export const settingLink = (
  slug: string,
  file: string,
  pointer: string,
): { readonly path: string; readonly query: { readonly at: string } } => ({
  path: `/s/${slug}/settings/${file}`,
  query: { at: pointer },
})

/** A path by its last folder and its name, which tell files of plugins apart. */
export const shortPath = (path: string): string => path.split('/').slice(-2).join('/')
