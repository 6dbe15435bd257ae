"""The page that comes without a signal, as a screen."""

from web.ui.screens import Screen, register

register(Screen(key="off-line", styles=("ui/along.css",), scripts=("ui/along.js",)))
