"""A lens with its ring set: blur, depth of field, focus window, apertures, standards, the ring.

* ``setup``         a lens at an aperture, and what is called sharp.
* ``kit``           a lens with all its apertures: the setup at any of them.
* ``conjugates``    the lens equation, with the sensor as the origin of distances.
* ``cone``          the two equations that all of depth is.
* ``depth``         blur, limits and hyperfocal distance for a ring that stands somewhere.
* ``focus_window``  where the ring may stand to keep one distance, or two, sharp.
* ``equal_blur``    the focus with equal blur at two distances.
* ``wave``, ``diffraction``  the wave integral, and the table made from it.
* ``aperture``      f-numbers: engraved ones, and the ones that two distances ask for.
* ``standards``     circles of confusion: where they come from, what they are good for.
* ``ring``, ``touch``  between distances and how far a ring is turned; a ring turned by feel.
* ``focusing``      how well each way of focusing does against the focus window.
* ``zoom``          few numbers in the head for a whole zoom.
* ``short_card``    the fewest ring positions that serve a whole zoom.
* ``sliding``       the sliding strip: a scale and brackets on paper.
* ``ring_strip``    a scale to wrap round a barrel.
"""
