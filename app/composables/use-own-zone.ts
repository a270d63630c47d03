import { inZone, isZone, readClock, writeClock } from '@pasticcio/core'
import type { ComputedRef } from 'vue'

/** Times of day between the clocks of a file and those somebody lives by. */
export interface OwnZone {
  /** The zone the file’s times are in; null where nobody says. */
  readonly ofFile: ComputedRef<string | null>
  /** The zone they are shown and typed in; that of the file where it says none. */
  readonly own: ComputedRef<string | null>
  readonly isSame: ComputedRef<boolean>
  /** A time of the file as it is here; what is none stays as it is. */
  here(written: string): string
  /** What is typed here as the file has it, written like another time there; what is none stays as it is. */
  there(typed: string, like: string): string
}

/** @param zone the zone a rule says, as `UTC` */
export function useOwnZone(zone: () => string | undefined): OwnZone {
  const known = useKnownStore()
  const today = new Date()
  const ofFile = computed(() => (isZone(zone() ?? '') ? zone()! : null))
  const own = computed(() => (ofFile.value && isZone(known.zone) ? known.zone : null))
  return {
    ofFile,
    own,
    isSame: computed(() => ofFile.value === own.value),
    here(written) {
      const time = readClock(written)
      return time && ofFile.value && own.value ? writeClock(inZone(time, ofFile.value, own.value, today), '00:00') : written
    },
    there(typed, like) {
      const time = readClock(typed)
      if (!time) return typed.trim()
      return writeClock(ofFile.value && own.value ? inZone(time, own.value, ofFile.value, today) : time, like || '00:00')
    },
  }
}
