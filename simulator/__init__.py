"""The made-up camera: scenes, lenses with faults of their own, bodies; and the files they write.

Everything in its pictures is drawn here, and drawn again alike from the same seed. Knows no web and
no page, and nothing of ``imaging``: what a file does not say, who measures it does not know. On the
command line: ``python -m simulator``; docs/simulator.md describes a scene's file.
"""
