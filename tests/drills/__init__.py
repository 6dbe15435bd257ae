"""Drills: tasks, what is true of their answers, pictures, progress. No Django."""
