"""The trade's rules and computation.

Standard library, numpy and scipy only: no Django, no I/O, no clock, no global state.
Lengths are in mm, forces in N, angles in degrees, nipple travel in turns, unless a name says otherwise.
"""
