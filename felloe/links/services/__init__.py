"""What customers see and answer by a link, and what is written to them."""

from felloe.links.services.letters import letter_of
from felloe.links.services.links import address_of, answer, ask_by_link, find_by_token, links_of, revoke, state_of, visit

__all__ = [
    "address_of",
    "answer",
    "ask_by_link",
    "find_by_token",
    "letter_of",
    "links_of",
    "revoke",
    "state_of",
    "visit",
]
