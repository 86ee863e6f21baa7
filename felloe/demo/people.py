"""The invented staff, customers and bikes of the Wheel Room at Tern Quay. Run it to print the demo sign-ins."""

from __future__ import annotations

SHOP = "The Wheel Room at Tern Quay"
PASSWORD = "tern-quay-demo"

#: username, first name, last name, role, unit of force
STAFF = (
    ("odile", "Odile", "Marrack", "owner", "N"),
    ("bram", "Bram", "Tolliver", "mechanic", "N"),
    ("ines", "Ines", "Quill", "mechanic", "kgf"),
    ("pip", "Pip", "Sallow", "desk", "N"),
    ("wyn", "Wyn", "Tregear", "apprentice", "N"),
)

#: customer → (phone, bikes as label, brake, use)
CUSTOMERS: dict[str, tuple[str, tuple[tuple[str, str, str], ...]]] = {
    "Maud Penhale": ("0700 900 101", (("Green ferry commuter", "rim", "everyday"), ("Shopping bike", "rim", "everyday"))),
    "Jory Trask": ("0700 900 102", (("Black ferry commuter", "disc", "everyday"), ("Old mail bike", "hub", "everyday"))),
    "Skerry Tandem Club": (
        "0700 900 110",
        (("Club tandem no. 3, red", "disc", "tandem"), ("Club tandem no. 5, blue", "disc", "tandem")),
    ),
    "District Nurses, Tern Quay": (
        "0700 900 120",
        (
            ("Fleet bike N7", "hub", "everyday"),
            ("Fleet bike N11", "hub", "everyday"),
            ("Folding bike N2", "rim", "everyday"),
            ("Carrier bike N4", "disc", "cargo"),
        ),
    ),
    "Gull Lane Velodrome": (
        "0700 900 130",
        (("Loan track bike 12", "rim", "track"), ("Loan road bike 4", "rim", "sport"), ("Loan road bike 9", "rim", "sport")),
    ),
    "Hetty Vane": ("0700 900 141", (("Grey all-weather bike", "disc", "everyday"),)),
    "Corin Ashby": ("0700 900 142", (("Weekend racer", "rim", "sport"), ("Rain bike", "rim", "everyday"))),
    "Wen Loveday": ("0700 900 143", (("Harbour tourer", "rim", "everyday"),)),
    "Ola Brix": ("0700 900 144", (("Gravel bike, sand", "disc", "sport"),)),
}

#: Where the island keeps its clocks, and its week: weekday (0 Monday), opens, closes.
TIME_ZONE = "Atlantic/Madeira"
WEEK = (*((day, "09:00", "18:00") for day in range(5)), (5, "09:00", "13:00"))
#: Shifts that differ from the opening hours, and what some are good at.
SHIFTS = {"ines": ((1, "08:00", "16:30"), (2, "08:00", "16:30"), (3, "08:00", "16:30"), (4, "08:00", "16:30"))}
SKILLS = {"bram": ["truing", "fine", "lacing", "hubs"], "ines": ["truing", "fine", "lacing"], "wyn": ["truing"]}
#: Digits for a quick change of person at the shared tablet.
PINS = {"bram": "2604", "ines": "7319", "pip": "5082", "wyn": "6143"}
STANDS = ("Window", "Middle", "Back wall")
HOOKS = tuple(f"{row}{place}" for row in "AB" for place in range(1, 9))
#: How some customers want to be told, and in which language.
REACHED = {
    "Corin Ashby": ("text", "en"),
    "Ola Brix": ("email", "de"),
    "Hetty Vane": ("phone", "en"),
    "Gull Lane Velodrome": ("email", "en"),
    "Wen Loveday": ("email", "pt"),
}

#: Price list of the demo, in cents.
PRICES = {
    "labour_hour": 5400,
    "spoke": 120,
    "nipple": 25,
    "washer": 20,
    "rim": 4900,
    "rim_tape": 400,
    "hub_parts": 1450,
    "axle": 1200,
}

#: What is known of some bikes beyond their brake.
BIKE_DETAILS: dict[str, dict[str, object]] = {
    "Grey all-weather bike": {
        "dropout": "through",
        "axle": "through",
        "axle_torque_nm": 12.0,
        "tyre": "tubeless",
        "directional": True,
    },
    "Harbour tourer": {"dropout": "vertical", "axle": "quick", "tyre": "tubed"},
    "Fleet bike N7": {"dropout": "horizontal", "axle": "nuts", "axle_torque_nm": 35.0, "tyre": "tubed"},
    "Loan track bike 12": {"dropout": "horizontal", "axle": "nuts", "axle_torque_nm": 30.0, "tyre": "glued"},
}

if __name__ == "__main__":
    print(f"  {SHOP}. Sign in with the password {PASSWORD} as")
    for username, first, last, role, _ in STAFF:
        print(f"    {username:<6} {first} {last}, {role}")
#: What the shop holds touring wheels to: between sound and fine.
TOURING: dict[str, object] = {
    "name": "touring",
    "version": 0,
    "lateral_mm": 0.4,
    "radial_mm": 0.4,
    "dish_mm": 0.5,
    "tension_percent": 18.0,
    "plain": "It will stay straight and even on a month's tour, far from any workshop.",
    "in_use": True,
}
#: What the shop writes under every letter, and on every tag.
OWN_WORDS: dict[str, object] = {
    "letter_texts": {
        "en": "You find us on the quay, by the blue crane. Wheels are kept for 90 days.",
        "de": "Sie finden uns am Kai, beim blauen Kran. Räder bewahren wir 90 Tage auf.",
        "pt": "Estamos no cais, junto à grua azul. Guardamos as rodas durante 90 dias.",
    },
    "tag_text": "Please bring this tag.",
}
