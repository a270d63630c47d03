import { object, string } from 'yup'
import { PlaceError, openPlace, type Place, type PlaceDriver } from '../../../server/places'

/** What the next calls of a method come to; tests put in and take out. */
export const faults = new Map<keyof Place, (path: string) => void | Promise<void>>()

/** A folder of this machine that fails where it is told to, as disks and lines do. */
export const faultyDriver: PlaceDriver<{ folder: string }> = {
  type: 'faulty',
  schema: object({ folder: string().required() }).noUnknown(),
  secrets: [],
  open({ folder }) {
    const real = openPlace({ type: 'local', folder } as { type: string })
    return new Proxy(real, {
      get(target, name: keyof Place) {
        const value = target[name] as unknown
        if (typeof value !== 'function') return value
        return async (first: string | { path: string }, ...rest: unknown[]) => {
          await faults.get(name)?.(typeof first === 'string' ? first : (first?.path ?? ''))
          return (value as (...all: unknown[]) => unknown).call(target, first, ...rest)
        }
      },
    })
  },
}

/** Lets a method fail from now on, for all paths or those that fit. */
export function failing(method: keyof Place, code: PlaceError['code'], fits: (path: string) => boolean = () => true): void {
  faults.set(method, (path) => {
    if (fits(path)) throw new PlaceError(code, `${path}: it does not work.`)
  })
}
