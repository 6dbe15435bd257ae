"""From core results to the shapes and positions of a picture: no HTML, no web.

Everything here is in drawing units, one per CSS pixel at the picture's own size, x to the
right and y downwards. Distances are millimetres from the sensor, as in ``optics``.
"""
