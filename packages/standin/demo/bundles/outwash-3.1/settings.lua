return {
  -- warn so many minutes before
  warn = 5,
  -- never cleared
  keep = { "eel", "crayfish" },
  -- spread the work over so many seconds
  spread = 30,
}
