"""The plots of docs/optics.md, drawn from the core: ./aim plots"""

from __future__ import annotations

import math
import sys
from pathlib import Path
from typing import Any

import matplotlib as mpl

mpl.use("svg")

import matplotlib.pyplot as plt
import numpy as np

from optics import Setup
from optics.lens import depth, diffraction, wave
from optics.scene import tape
from optics.scene.camera import Camera
from optics.sky import star_drift

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "plots"

PAPER, INK, QUIET, RULE = "#f2f0ea", "#1b2730", "#55636b", "#d3cdbe"
SHARP, BAND, SOFT, INDEX = "#0a5b56", "#d3dfd8", "#875500", "#c23d0c"

STYLE: dict[Any, Any] = {
    "figure.facecolor": PAPER, "axes.facecolor": PAPER, "savefig.facecolor": PAPER,
    "axes.edgecolor": INK, "axes.labelcolor": INK, "text.color": INK,
    "xtick.color": INK, "ytick.color": INK, "axes.spines.top": False, "axes.spines.right": False,
    "axes.linewidth": 0.8, "font.family": "sans-serif", "font.size": 10, "axes.titlesize": 11,
    "axes.titleweight": "bold", "axes.titlelocation": "left", "svg.hashsalt": "aim-still",
    "svg.fonttype": "path", "figure.figsize": (7.6, 4.0), "figure.constrained_layout.use": True,
}  # fmt: skip


def equivalent_disc() -> Any:
    """The cube sum, the quadrature and the table, each against the wave integral."""
    figure, axes = plt.subplots()
    defocus = np.linspace(0, 0.012, 121)  # per unit of f-number
    truth = wave.equivalent_disc(defocus)
    airy = 2.44 * wave.PENCIL_WAVELENGTH
    lines = (
        (np.hypot(defocus, airy), SOFT, "Airy diameter in quadrature"),
        (wave.cube_sum(defocus), INK, "cube sum, 1.76 λN: the pencil version"),
        (np.asarray(diffraction.combine(defocus, 1.0)), SHARP, "the table used here"),
    )
    for disc, colour, name in lines:
        error = 100 * (disc / truth - 1)
        axes.plot(1000 * defocus, error, color=colour, lw=1.8, label=name)
    axes.axhspan(-1, 1, color=BAND, lw=0, zorder=0)
    axes.text(11.9, -2.4, "within 1 %", ha="right", color=QUIET, fontsize=9)
    axes.set(
        title="Defocus and diffraction together: error of three ways",
        xlabel="defocus disc ÷ f-number, µm",
        ylabel="error of the equivalent disc, %",
        xlim=(0, 12),
    )
    axes.legend(frameon=False, loc="upper right")
    return figure


def blur_over_distance() -> Any:
    """Blur is two straight arms on the 1/distance axis; diffraction rounds the corner."""
    figure, axes = plt.subplots()
    setup = Setup(24, 11, 0.025)
    inverse = np.linspace(1 / 700, 0, 400)
    with np.errstate(divide="ignore"):
        subject = 1 / inverse
    place = -1000 * inverse
    held = depth.limits(setup, 2600)
    axes.axvspan(-1000 / float(held.near), 0, color=BAND, lw=0, zorder=0)
    axes.axhline(25, color=INK, lw=0.8, ls=(0, (1, 2)))
    axes.text(-1.42, 25.8, "standard, 25 µm", color=QUIET, fontsize=9)
    geometric = 1000 * np.asarray(depth.blur_disc(setup, subject, 2600))
    total = 1000 * np.asarray(depth.total_blur(setup, subject, 2600))
    axes.plot(place, geometric, color=INK, lw=1.8, label="defocus alone")
    axes.plot(place, total, color=SHARP, lw=1.8, label="with diffraction")
    axes.axvline(-1000 / 2600, color=INDEX, lw=1.6)
    axes.text(-1000 / 2600 + 0.01, 56, "ring at 2.6 m", color=INDEX)
    ticks = (0.7, 0.8, 0.9, 1, 1.2, 1.5, 2, 3, 5, 10, math.inf)
    axes.set_xticks([-1 / t for t in ticks], ["∞" if math.isinf(t) else f"{t:g}" for t in ticks])
    axes.set(
        title="Blur over distance: 24 mm, f/11",
        xlabel="distance, m (spaced by 1/distance)",
        ylabel="blur on the sensor, µm",
        ylim=(0, 62),
        xlim=(-1.45, 0.02),
    )
    axes.legend(frameon=False, loc="upper center")
    return figure


def drift_over_frame() -> Any:
    """How far stars drift in 13 s, over the frame, for where the lens points."""
    figure, panels = plt.subplots(1, 3, sharey=True, figsize=(7.6, 2.9))
    x, y = np.meshgrid(np.linspace(-18, 18, 181), np.linspace(-12, 12, 121))
    levels = np.arange(0, 40, 4)
    for axes, declination in zip(panels, (0, 60, 90), strict=True):
        chord = 1000 * np.asarray(star_drift.drift(16, 13, math.radians(declination), x, y))
        lines = axes.contour(x, y, chord, levels, colors=INK, linewidths=0.8)
        axes.clabel(lines, fmt="%d", fontsize=8)
        axes.plot((-18, 18, 18, -18, -18), (-12, -12, 12, 12, -12), color=QUIET, lw=0.8)
        axes.set(title=f"declination {declination}°", xlabel="mm", aspect="equal")
        axes.set(xlim=(-21, 21), ylim=(-15, 15))
    panels[0].set(ylabel="mm, towards the pole")
    figure.suptitle("Drift of stars in 13 s, µm: 16 mm lens, full frame", x=0.01, ha="left")
    return figure


def straight_for_depth() -> Any:
    """What taking a straight distance for a depth costs."""
    figure, axes = plt.subplots()
    rows = np.linspace(0, 1, 101)
    for focal_length, colour in ((16, SOFT), (24, INK), (35, SHARP), (85, QUIET)):
        camera = Camera(900, 0, 0, focal_length, 24, 36)
        deep = np.asarray(tape.depth_of_straight(camera, 1300, rows, rise=math.inf))
        off = 100 * (1300 / deep - 1)
        axes.plot(rows, off, color=colour, lw=1.8)
        axes.text(1.01, off[-1], f"{focal_length} mm", color=colour, va="center")
    axes.axhline(5, color=INK, lw=0.8, ls=(0, (1, 2)))
    axes.text(0.5, 5.4, "a usual error of a depth, 5 %", ha="center", color=QUIET, fontsize=9)
    axes.set(
        title="A straight 1.30 m taken for a depth: too far by",
        xlabel="where in the frame: 0 lower edge, ½ middle, 1 upper edge (full frame, level)",
        ylabel="error, %",
        xlim=(0, 1.12),
        ylim=(0, None),
    )
    return figure


PLOTS = (equivalent_disc, blur_over_distance, drift_over_frame, straight_for_depth)


def main() -> int:
    """Draw them all into docs/plots, the same file for the same core."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    suffix = sys.argv[1] if len(sys.argv) > 1 else "svg"
    with mpl.rc_context(STYLE):
        for plot in PLOTS:
            figure = plot()
            file = FOLDER / f"{plot.__name__.replace('_', '-')}.{suffix}"
            figure.savefig(file, metadata={"Date": None} if suffix == "svg" else None, dpi=110)
            plt.close(figure)
            print(file.relative_to(FOLDER.parents[1]))
    return 0


if __name__ == "__main__":
    sys.exit(main())
