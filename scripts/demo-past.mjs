// How the demo's servers ran over the last day, and when its people did what they did: written into the database of a
// demo that was just made, since nobody waits a day for a picture. Nothing else ever writes there beside Pasticcio.
import Database from 'better-sqlite3'

const MINUTE = 60
const HOUR = 60 * MINUTE
/** Milliseconds of a tick without plugins and players, and what a player adds: as the stand-in reckons. */
const BASE_MS = 28
const PLAYER_MS = 0.35

/**
 * The servers, each with its most players, what its plugins take of a tick, and until when it ran, in hours ago. What takes
 * more of a tick for some time is of the story that the changes tell: the tide came too often, and was taken back.
 */
const SERVERS = {
  'lantern-row': {
    most: 18,
    until: 0,
    times: { Purse: 0.4, Wardkeys: 0.28, Clayworks: 0.8, Gangway: 0.1, Hampers: 0.4, Signboard: 1.45, Stallholder: 1.6, Tideclear: 1.1 },
    heavy: { plugin: 'Tideclear', ms: 26, from: 9.4, to: 4.2 },
  },
  'night-market': { most: 7, until: 0, times: { Satchels: 0.3, Noticeboard: 0.3 } },
  'ferry-trials': { most: 7, until: 3.5, times: { Ferrybook: 0.3, 'Beacon Sign': 0.3, Regatta: 0.3 } },
}
/** When the changes of lantern-row were made, in hours ago, in their order. */
const MADE = [20.6, 15.3, 9.4, 4.2]

/** @param file the database of the demo @param now seconds since 1970 */
export function writePast(file, now) {
  const db = new Database(file)
  try {
    db.transaction(() => {
      setBack(db, now)
      for (const [slug, server] of Object.entries(SERVERS)) measure(db, slug, server, now)
    })()
  } finally {
    db.close()
  }
}

function setBack(db, now) {
  const rows = db
    .prepare("SELECT applies.id FROM applies JOIN servers ON servers.id = server_id WHERE slug = 'lantern-row' ORDER BY applies.id")
    .all()
  for (const [i, { id }] of rows.entries()) {
    const at = new Date((now - (MADE[i] ?? 0.5) * HOUR) * 1000).toISOString()
    db.prepare('UPDATE applies SET started_at = ? WHERE id = ?').run(at, id)
    db.prepare('UPDATE apply_steps SET at = ? WHERE apply_id = ?').run(at, id)
  }
}

function measure(db, slug, { most, until, times, heavy }, now) {
  const found = db.prepare('SELECT id FROM servers WHERE slug = ?').get(slug)
  if (!found) return
  const sample = db.prepare('INSERT OR REPLACE INTO samples (server_id, at, seconds, players, ticks, memory) VALUES (?, ?, 60, ?, ?, ?)')
  const time = db.prepare('INSERT OR REPLACE INTO plugin_times (server_id, at, seconds, plugin, ms) VALUES (?, ?, 60, ?, ?)')
  for (let ago = 24 * HOUR; ago > Math.max(until * HOUR, MINUTE); ago -= MINUTE) {
    const at = now - ago
    const players = playersAt(at, most, found.id)
    const hours = ago / HOUR
    const isHeavy = heavy !== undefined && hours < heavy.from && hours > heavy.to
    const ms = Object.values(times).reduce((sum, one) => sum + one, isHeavy ? heavy.ms : 0)
    const ticks = Math.min(20, 1000 / (BASE_MS + players * PLAYER_MS + ms)) - noise(at, found.id) * 0.5
    sample.run(found.id, at, players, ticks, 310 + players * 6 + Object.keys(times).length * 9)
    if (Math.round(ago / MINUTE) % 5 !== 0) continue
    for (const [plugin, one] of Object.entries(times))
      time.run(found.id, at, plugin, one + (isHeavy && plugin === heavy.plugin ? heavy.ms : 0) + noise(at, plugin.length) * 0.05)
  }
}

/** Most in the evening, few in the early morning. */
function playersAt(at, most, seed) {
  const hour = (at / HOUR) % 24
  const share = 0.55 + 0.42 * Math.cos(((hour - 20) / 24) * 2 * Math.PI)
  return Math.max(0, Math.min(most, Math.round(most * share + (noise(Math.floor(at / (7 * MINUTE)), seed) - 0.5) * 3)))
}

/** From 0 to 1, the same each time. */
function noise(at, seed) {
  const x = Math.sin(at * 12.9898 + seed * 78.233) * 43758.5453
  return x - Math.floor(x)
}
