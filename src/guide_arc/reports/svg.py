"""A drawing as SVG, for pages. Text stays text, so that it can be selected and read aloud."""

from __future__ import annotations

from collections.abc import Mapping
from xml.sax.saxutils import escape, quoteattr

import numpy as np

from guide_arc.core.model.finding import Verdict
from guide_arc.drawings.shapes import Area, Disc, Drawing, MarkShape, Points, Stroke, Words

_ANCHOR = {"start": "start", "middle": "middle", "end": "end"}


def svg(drawing: Drawing, colours: Mapping[str, str], label: str) -> str:
    """The drawing as one <svg> element; `label` says what it shows to those who can't see it."""
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {drawing.width:g}'
        f' {drawing.height:g}" width="{drawing.width:g}" height="{drawing.height:g}"'
        f' font-family="Sheet" role="img" aria-label={quoteattr(label)}>'
    ]
    for item in drawing.items:
        if isinstance(item, Stroke):
            dash = ' stroke-dasharray="4 3"' if item.dash else ""
            parts.append(
                f'<polyline points="{_points(item.points)}" fill="none"'
                f' stroke="{colours[item.role]}" stroke-width="{item.width:g}"'
                f' stroke-opacity="{item.opacity:g}"'
                f' stroke-linecap="{"round" if item.width > 2 else "butt"}"'
                f' stroke-linejoin="round"{dash}/>'
            )
        elif isinstance(item, Area):
            edge = f' stroke="{colours[item.outline]}"' if item.outline else ""
            parts.append(
                f'<polygon points="{_points(item.points)}" fill="{colours[item.role]}" '
                f'fill-opacity="{item.opacity:g}"{edge}/>'
            )
        elif isinstance(item, Disc):
            fill = colours[item.fill] if item.fill else "none"
            edge = (
                f'stroke="{colours[item.outline]}" stroke-width="{item.width:g}"'
                if item.outline
                else ""
            )
            parts.append(
                f'<ellipse cx="{item.x:.1f}" cy="{item.y:.1f}" rx="{item.radius:.1f}" '
                f'ry="{item.radius * item.height_ratio:.1f}" fill="{fill}" {edge}/>'
            )
        elif isinstance(item, Words):
            weight = ' font-weight="bold"' if item.bold else ""
            ground = ""
            if item.clear:  # a broad edge in the sheet's colour, under the letters
                ground = f' stroke="{colours["panel"]}" stroke-width="4" paint-order="stroke"'
            parts.append(
                f'<text x="{item.x:.1f}" y="{item.y:.1f}" font-size="{item.size:g}"'
                f' fill="{colours[item.role]}"'
                f' text-anchor="{_ANCHOR[item.anchor]}"{weight}{ground}>{escape(item.text)}</text>'
            )
        else:
            parts.append(_mark(item, colours))
    parts.append("</svg>")
    return "".join(parts)


def mark_svg(verdict: Verdict, colours: Mapping[str, str], size: float = 14.0) -> str:
    """A verdict's shape alone."""
    drawing = Drawing(size, size)
    drawing.add(MarkShape(size / 2, size / 2, verdict, size - 2))
    words = {
        "ok": "within the limit",
        "near": "close to the limit",
        "off": "past the limit",
        "cannot-tell": "can't tell",
    }
    return svg(drawing, colours, words[verdict])


def _mark(item: MarkShape, colours: Mapping[str, str]) -> str:
    x, y, r = item.x, item.y, item.size / 2
    if item.verdict == "off":
        return (
            f'<polygon points="{x:.1f},{y - r:.1f} {x + 1.05 * r:.1f},{y + 0.85 * r:.1f}'
            f' {x - 1.05 * r:.1f},{y + 0.85 * r:.1f}" fill="{colours["off"]}"/>'
        )
    if item.verdict == "near":
        c = colours["near-fill"]
        return (
            f'<path d="M{x:.1f} {y - r:.1f} A{r:.1f} {r:.1f} 0 0 0 {x:.1f} {y + r:.1f} Z"'
            f' fill="{c}"/><circle cx="{x:.1f}" cy="{y:.1f}" r="{r:.1f}" fill="none" stroke="{c}"'
            ' stroke-width="1.3"/>'
        )
    if item.verdict == "ok":
        return f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{0.8 * r:.1f}" fill="{colours["ink"]}"/>'
    c = colours["unsure"]
    lines = "".join(
        f'<path d="M{x - r + k:.1f} {y + r:.1f} L{x + r:.1f} {y - r + k:.1f}" stroke="{c}"'
        ' stroke-width="0.9"/>'
        for k in np.arange(0, 2 * r, 3.0)
    )
    return (
        f'<rect x="{x - r:.1f}" y="{y - r:.1f}" width="{2 * r:.1f}" height="{2 * r:.1f}"'
        f' fill="none" stroke="{c}" stroke-width="1.2"/>{lines}'
    )


def _points(points: Points) -> str:
    seen = points[np.isfinite(points).all(axis=-1)]
    return " ".join(f"{x:.1f},{y:.1f}" for x, y in seen.tolist())
