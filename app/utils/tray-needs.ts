/** What makes changes count, in the words of the tray. */
export const TRAY_NEEDS = {
  reload: 'needs a reload',
  restart: 'needs a restart: stop, write, start',
  stopped: 'is written while it is stopped: stop, write, start',
} as const
