import type { SettingRow } from './sheet-rows'

/** What every control of a setting is given. */
export interface ControlProps {
  readonly row: SettingRow
  readonly disabled: boolean
  /** Whether the value is found wrong. */
  readonly bad: boolean
}
