"""Parts of the shop: bins, an append-only ledger, orders."""
