"""Tests. Property tests have no deadline: how fast the machine is today is not what they ask."""

from hypothesis import settings

settings.register_profile("aim", deadline=None)
settings.load_profile("aim")
