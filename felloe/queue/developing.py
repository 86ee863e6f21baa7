"""Makes one picture anew, as a process of its own: `python -m felloe.queue.developing LOCK`, picture in, JPEG out.

A picture is small on the way and large once unpacked, and its unpacker is code for other people's files. So it happens outside
of the server, one at a time by a lock on the file LOCK, within fixed memory and time. The answer on standard output is a word
("jpeg", "too_large" or "unreadable"), width and height, a line's end and the bytes. Nothing of Felloe is loaded here.
"""

from __future__ import annotations

import fcntl
import io
import resource
import sys
from pathlib import Path

from PIL import Image, ImageOps, UnidentifiedImageError

#: Longest side kept.
SIDE_PX = 1600
#: A camera's JPEG is unpacked at the size that is needed; others, and JPEG in layers, only whole.
MOST_PIXELS = 50_000_000
MOST_PIXELS_WHOLE = 16_000_000
FORMATS = ("JPEG", "PNG", "WEBP")
#: What the process may hold (the interpreter and its libraries take 60 MB of it), and compute.
MOST_MEMORY_BYTES = 400_000_000
MOST_CPU_S = 20


class TooLarge(Exception):
    """By its header, before anything is unpacked."""


def developed(data: bytes) -> tuple[bytes, int, int]:
    """JPEG bytes, width and height in pixels: turned upright, shrunk, nothing kept but the pixels.

    Raises TooLarge, and what Pillow raises where the bytes are no picture.
    """
    with Image.open(io.BytesIO(data), formats=FORMATS) as picture:
        by_parts = picture.format == "JPEG" and not picture.info.get("progressive")
        if picture.width * picture.height > (MOST_PIXELS if by_parts else MOST_PIXELS_WHOLE):
            raise TooLarge
        picture.draft("RGB", (SIDE_PX, SIDE_PX))
        picture.thumbnail((SIDE_PX, SIDE_PX), Image.Resampling.LANCZOS)
        upright = ImageOps.exif_transpose(picture).convert("RGB")
    # A fresh image: no profile, comment or place goes along.
    clean = Image.new("RGB", upright.size)
    clean.paste(upright)
    out = io.BytesIO()
    clean.save(out, "JPEG", quality=82, optimize=True)
    return out.getvalue(), clean.width, clean.height


def main() -> None:
    """Read a picture, wait for the lock, answer."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_MEMORY_BYTES, MOST_MEMORY_BYTES))
    resource.setrlimit(resource.RLIMIT_CPU, (MOST_CPU_S, MOST_CPU_S))
    data = sys.stdin.buffer.read()
    with Path(sys.argv[1]).open("ab") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        try:
            jpeg, width, height = developed(data)
            word = "jpeg"
        except (TooLarge, MemoryError):
            jpeg, width, height, word = b"", 0, 0, "too_large"
        except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
            jpeg, width, height, word = b"", 0, 0, "unreadable"
    sys.stdout.buffer.write(f"{word} {width} {height}\n".encode() + jpeg)


if __name__ == "__main__":
    main()
