"""``python -m optics``: tables of depth of field, and the answer to one scene.

* ``main``        reads the arguments.
* ``scene_file``  a scene as plain data, and an answer as plain data.
* ``tables``      rows of tables.
* ``printing``    text, CSV and JSON.

The only part of the core that reads and writes.
"""
