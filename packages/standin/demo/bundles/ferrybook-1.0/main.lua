Print("ferrybook")
