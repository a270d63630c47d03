Config = {}

Config.Debug = false -- prints what happens to the console

Config.Framework = 'auto' -- 'auto', 'harbour' or 'quay'

Config.Command = 'ferry' -- the command that opens the list
Config.OpenKey = 'F5'

Config.Wait = 1000 -- ms between two checks
Config.MaxDistance = 2.5 -- how near one must stand, in metres
Config.TravelTime = 90 -- seconds
Config.Cooldown = 5 * 60 * 1000 -- milliseconds
Config.Price = 25 -- in marks, 0 = free
Config.PayWith = 'purse' -- purse, bank
Config.CheckPermission = true
Config.Permission = 'ferry.use' -- only when CheckPermission is true

Config.Captain = {
  name = 'Old Talan',
  coords = vector4(1204.5, 18.0, -377.0, 135.0),
  model = 'ferryman_01',
  item = 'oar',
}

Config.Stops = {
  mole = { label = 'The mole', coords = vector3(120.0, 62.0, -41.0), heading = 90.0, fee = 10 },
  saltpans = { label = 'The saltpans', coords = vector3(-310.0, 70.0, 88.0), heading = 180.0, fee = 15 },
}

Config.Blip = {
  show = true,
  sprite = 280, -- 1-826
  colour = 5,
  scale = 0.7, -- between 0.1 and 2.0
}

Config.Webhook = 'https://hooks.example/ferry'
Config.Departures = { '07:00', '12:00', '19:30' } -- server time
Config.MaxPassengers = 8 -- at least 1, at most 24
Config.FareItem = { name = 'ferry_token', count = 1 }
Config.WetChance = 15 -- percent
