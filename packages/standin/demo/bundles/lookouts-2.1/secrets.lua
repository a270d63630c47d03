-- What only this server may know. Never show it to anybody.
Secrets = {}
-- where the pictures go
Secrets.address = "https://glass.example/7740"
-- the two keys the glass gave you; without them the screens stay dark
Secrets.picture_key = ""
Secrets.signing_key = ""
