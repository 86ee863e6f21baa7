"""How the shop did: promises kept, lead times, what came back."""
