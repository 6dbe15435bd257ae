"""Drills: what is asked of a learner, what each answer is worth, and what tries tell.

No Django, no page. A drill makes tasks of a lens and of chance that is sown; a task has all the
answers that can be given, each with what is true of it, so that whoever asks needs no optics.
"""
