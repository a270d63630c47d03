import { parsePointer } from '../tree/pointer'

/**
 * The keys of the setting that another one needs; of a setting in a group, those in its own entry.
 * @param setting a JSON Pointer, in which `*` stands for the entry
 * @param keys those of the setting that needs it
 * @returns null for what is no pointer
 */
export const neededKeys = (setting: string, keys: readonly string[]): string[] | null =>
  parsePointer(setting)?.map((key, depth) => (key === '*' ? (keys[depth] ?? key) : key)) ?? null
