-- Kilns
-- All durations are in seconds.
Kilns = {}

Kilns.debug = false
-- How long a firing takes
Kilns.firing_time = 15 * 60
-- milliseconds between two looks
Kilns.tick_interval = 500
-- 'marks' or 'tokens'
Kilns.currency = 'marks'
-- Distance in metres, maximum 50.0
Kilns.distance = 12.5
Kilns.marker = {
  -- id of the picture on the map (0 to 800)
  sprite = 436,
  -- 0.0 - 1.0
  scale = 0.8,
  colour = { 201, 138, 11 },
}
Kilns.places = {
  { label = "Upper kiln", coords = vec3(120.5, 61.0, -40.25), heading = 270.0, node = "kilns.upper" },
  { label = "Lower kiln", coords = vec3(-12.0, 58.0, 7.5), heading = 90.0, node = "kilns.lower" },
}
Kilns.recipes = {
  fired_brick = { needs = { clay = 4 }, seconds = 60, chance = 95 },
  crock = { needs = { clay = 8 }, seconds = 120, chance = 80 },
}
-- item needed to light it
Kilns.lighter = "lamp_oil"
-- Set to true to use the shared key
Kilns.use_key = true
-- only used when use_key is true
Kilns.key_item = "ferry_token"
Kilns.locale = "en"
-- Webhook for the log, empty turns it off
Kilns.webhook = ""
-- payout: between 10 and 50 per brick
Kilns.payout = 25
-- Reset time (24h, server time)
Kilns.reset_at = "04:00"
-- anyone with one of these ranks
Kilns.ranks = { "warden", "ferryman" }
Kilns.blip_label = "Kiln"
