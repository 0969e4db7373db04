"""The log: a session row by row, lines as people say them, the forecast, and what readings teach."""
