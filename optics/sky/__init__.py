"""Stars over a fixed camera.

* ``rotation``    the sky turning about its pole.
* ``projection``  how a lens draws directions: rectilinear, or a fisheye.
* ``star_drift``  how far a star drifts, how long until it shows, where a camera points.
* ``parts``       parts of the sky that are in a picture.
* ``star_field``  which star of a picture drifts farthest, and which least.
* ``tracking``    what a mount that follows the sky leaves of the drift.
* ``gathered``    the light that a lens gathers in a time.
"""
