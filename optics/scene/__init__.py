"""One scene, one answer: marks, the camera over the ground, and where to put focus and aperture.

* ``camera``, ``frame``  a camera over the ground: between rows of the picture and distances.
* ``marks``         the things of a scene, what is wished of them, and how each one fares.
* ``scenes``        all that an answer depends on.
* ``schools``       the schools of placing focus, a record each.
* ``focus_distances``  the bare distances that those schools focus at.
* ``placing``       where the chosen school puts the ring, on a distance that a hand can set.
* ``choosing``      the aperture: widest that holds, sharpest, soft where it should be.
* ``answer``        the answer itself, and every school beside it.
* ``moving``, ``rescue``  stepping back; everything that would do when it will not hold.
* ``trial_frame``   what a trial frame teaches, and what to do then.
"""
