import type { Ref, ShallowRef } from 'vue'
import type { NamedFile, NamedFiles } from '~/utils/types'
import type { SettingRow } from '~/utils/sheet-rows'

/** The files that a setting may name, and how one more comes among them. */
export interface FilesOfSetting {
  readonly known: ShallowRef<NamedFiles | null>
  /** Why the last thing could not be done; empty where it could. */
  readonly problem: Ref<string>
  /** The file of this name; null where there is none. */
  find(name: string): NamedFile | null
  /** Stages a file. @returns the name it has for the setting; null where it was refused */
  upload(file: Blob, name: string, asItIs?: boolean): Promise<string | null>
}

export function useNamedFiles(row: () => SettingRow): FilesOfSetting {
  const server = useServerStore()
  const sheet = useSheetStore()
  const tray = useTrayStore()
  const known = shallowRef<NamedFiles | null>(null)
  const problem = ref('')
  const address = (more = ''): string =>
    `${server.base}/named?path=${encodeURIComponent(sheet.view!.path)}&pointer=${encodeURIComponent(row().pointer)}${more}`

  async function load(): Promise<void> {
    try {
      known.value = await callApi<NamedFiles>(address())
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }
  async function upload(file: Blob, name: string, asItIs = false): Promise<string | null> {
    problem.value = ''
    try {
      const more = `&name=${encodeURIComponent(name)}&asItIs=${String(asItIs)}`
      const put = await callApi<{ name: string }>(address(more), { method: 'PUT', bytes: file })
      await Promise.all([load(), tray.refresh()])
      return put.name
    } catch (error) {
      problem.value = wordsOf(error)
      return null
    }
  }
  // what the tray holds may be applied or discarded while the page is open
  watch(() => [row().pointer, tray.files.length], load, { immediate: true })
  return { known, problem, find: (name) => known.value?.files.find((file) => file.name === name) ?? null, upload }
}
