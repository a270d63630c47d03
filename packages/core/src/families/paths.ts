/** Whether a path leads nowhere else than below where it begins: no way out, no backslashes, no drive. */
export const isPlainPath = (path: string): boolean =>
  path.split('/').every((part) => part !== '' && part !== '.' && part !== '..') && !/[\\\x00-\x1f]|^[A-Za-z]:/.test(path)
