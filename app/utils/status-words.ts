import type { ServerState } from './types'

/** How a server is, in words. */
export const STATUS_WORDS: Readonly<Record<ServerState['status'], string>> = {
  stopped: 'stopped',
  starting: 'starting',
  running: 'running',
  stopping: 'stopping',
  failed: 'not running',
  unattended: 'running without its console',
}
