return {
  -- how many may be aboard one ferry
  seats = 24,
  -- what is called out when it leaves
  call = "All aboard!",
}
