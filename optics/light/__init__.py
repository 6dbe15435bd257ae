"""Exposure, and what moves while the shutter is open.

* ``exposure``  the same light by another aperture, time, ISO or filter; times of a dial.
* ``motion``    blur of things that move, on the scale of defocus.
"""
