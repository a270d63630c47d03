import { Drivers } from '../drivers'
import { localDriver } from './local'
import type { Place, PlaceDriver } from './place'

export * from './place'

/** Every kind of place; a new one is a file and an entry here. */
export const places = new Drivers<PlaceDriver>('place', [localDriver as unknown as PlaceDriver])

/** Opens the place that a server's connection names. @throws ValidationError for settings that are not right */
export function openPlace({ type, ...settings }: { readonly type: string }): Place {
  const driver = places.get(type)
  return driver.open(driver.schema.validateSync(settings))
}
