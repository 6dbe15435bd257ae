"""What the rest of the core stands on: errors, numbers, units, formats, searches, rounding.

* ``errors``    the tree under ``OpticsError``, and the checks that raise it.
* ``numbers``   plain numbers and arrays of them.
* ``units``     lengths as people write them, and back; one record for each system of units.
* ``amounts``   shares, errors, speeds and times as people write them.
* ``settable``  distances that a hand can set, and rounding to them that keeps a picture sharp.
* ``formats``   sensor and film formats.
* ``search``    a crossing, and the bottom of a valley.

Knows nothing of lenses.
"""
