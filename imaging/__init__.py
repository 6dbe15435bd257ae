"""Pictures in, measures out: blur of edges and of stars, softness by patches, shift of focus.

Knows no web and no page; what it computes of lenses it asks ``optics``, and the printed target is
drawn by ``drawing``. Every file is taken as if somebody had made it to break the reader. Methods
and their sources: docs/imaging.md. On the command line: ``python -m imaging``.
"""
