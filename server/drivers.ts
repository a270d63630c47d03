import type { Schema } from 'yup'

/** A kind of thing that a server's connection may name: how its settings look, and which of them are secret. */
export interface Driver<Settings extends object = object> {
  readonly type: string
  readonly schema: Schema<Settings>
  /** Names of settings that are kept encrypted. */
  readonly secrets: readonly (keyof Settings & string)[]
}

/** The kinds of a thing that this process knows, each by its type; what a server's connection may name. */
export class Drivers<Driver extends { readonly type: string }> {
  private readonly byType = new Map<string, Driver>()

  constructor(
    private readonly what: string,
    drivers: readonly Driver[],
  ) {
    for (const driver of drivers) this.byType.set(driver.type, driver)
  }

  /** Adds a kind, as tests do. @returns takes it away again @throws RangeError for a type that is taken */
  register(driver: Driver): () => void {
    if (this.byType.has(driver.type)) throw new RangeError(`there is a kind of ${this.what} “${driver.type}” already`)
    this.byType.set(driver.type, driver)
    return () => void this.byType.delete(driver.type)
  }

  /** @throws RangeError for a kind that is not known */
  get(type: string): Driver {
    const driver = this.byType.get(type)
    if (!driver) throw new RangeError(`there is no kind of ${this.what} “${type}”. Known are ${[...this.byType.keys()].join(', ')}.`)
    return driver
  }
}
