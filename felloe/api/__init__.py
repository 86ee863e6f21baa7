"""What the shop's apps share over HTTP: problem details, write keys, stale writes."""
