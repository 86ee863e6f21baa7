"""Back into the bike: the checklist, the re-check date, and advice for the road."""
