"""Ring positions that tile a band of distances: zone focusing.

* ``tiling``     zones laid end to end; frames of a stack.
* ``from_list``  positions out of a list: those that a hand can find.
* ``coverage``   which zones hold most of a band that none of them closes.
* ``stretches``  a band shared out among positions; gaps.
* ``hit_rate``   what share of pictures to expect sharp.
* ``subjects``   where people turn up: in every stride, or round a distance.
* ``people``     how much of a person the frame takes in; somebody walking through a zone.
"""
