import { expose } from 'comlink'
import { liveAll } from '@pasticcio/core'

/** Weeks of many players, off the main thread. */
expose(liveAll)
