"""When the shop is open, who works when, and the shop's time zone."""
