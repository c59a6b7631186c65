"""Tables from elsewhere: circuits and prices, column by column and row by row, each bad row explained."""
