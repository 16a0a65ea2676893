"""A printed sheet as a page of lines: PDF and SVG of several habits."""

from __future__ import annotations

import io
import math
import random

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from bench.paper.printing import Printed, dashed
from holoptic.reading.lines import Bow, Straight

HABITS = ("dashes told", "dashes drawn one by one", "all of one width")


def pdf_bytes(sheet: Printed, habit: str, _: random.Random) -> bytes:
    """Return a sheet as PDF."""
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(sheet.size[0] * mm, sheet.size[1] * mm))
    for mark in sheet.marks:
        canvas.setLineWidth((0.35 if habit == HABITS[2] else mark.width) * mm)
        told = habit != HABITS[1]
        canvas.setDash([x * mm for x in mark.dashes] if told else [])
        pieces = [None] if told or not mark.dashes else dashed(mark.shape.path(), mark.dashes)
        for piece in pieces:
            path = canvas.beginPath()
            if piece is not None:
                path.moveTo(piece[0][0] * mm, piece[0][1] * mm)
                for x, y in piece[1:]:
                    path.lineTo(x * mm, y * mm)
            else:
                _path(path, mark.shape)
            canvas.drawPath(path, stroke=1, fill=0)
    canvas.setDash([])
    for head in sheet.heads:
        path = canvas.beginPath()
        path.moveTo(head[0][0] * mm, head[0][1] * mm)
        for x, y in head[1:]:
            path.lineTo(x * mm, y * mm)
        path.close()
        canvas.drawPath(path, stroke=0, fill=1)
    for words in sheet.words:
        canvas.saveState()
        canvas.translate(words.at[0] * mm, words.at[1] * mm)
        canvas.rotate(words.turn)
        canvas.setFont("Helvetica", words.height / 0.72 * mm)
        canvas.drawCentredString(0, -words.height / 2 * mm, words.text)
        canvas.restoreState()
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _path(path, shape) -> None:  # type: ignore[no-untyped-def]
    if isinstance(shape, Bow):
        count = max(1, math.ceil((shape.last - shape.first) / (math.pi / 2)))
        step = (shape.last - shape.first) / count
        handle = 4 / 3 * math.tan(step / 4) * shape.radius
        path.moveTo(shape.start[0] * mm, shape.start[1] * mm)
        for k in range(count):
            a, b = shape.first + k * step, shape.first + (k + 1) * step
            (x, y), (u, v) = shape.at(a), shape.at(b)
            path.curveTo((x - handle * math.sin(a)) * mm, (y + handle * math.cos(a)) * mm,
                         (u + handle * math.sin(b)) * mm, (v - handle * math.cos(b)) * mm,
                         u * mm, v * mm)  # fmt: skip
        return
    places = shape.path()
    path.moveTo(places[0][0] * mm, places[0][1] * mm)
    for x, y in places[1:]:
        path.lineTo(x * mm, y * mm)


def svg_bytes(sheet: Printed, habit: str, dice: random.Random) -> bytes:
    """Return a sheet as SVG, in mm or in a moved and scaled group."""
    wide, high = sheet.size
    grown = dice.choice((1.0, 3.7795))
    rows = [f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide}mm" height="{high}mm" '
            f'viewBox="0 0 {wide * grown:.3f} {high * grown:.3f}">',
            f'<g transform="scale({grown}) translate(0 {high}) scale(1 -1)" fill="none" '
            f'stroke="#000000">']  # fmt: skip
    for mark in sheet.marks:
        width = 0.35 if habit == HABITS[2] else mark.width
        told = habit != HABITS[1]
        dashes = ""
        if told and mark.dashes:
            dashes = f' stroke-dasharray="{" ".join(f"{x:.3f}" for x in mark.dashes)}"'
        pieces = [None] if told or not mark.dashes else dashed(mark.shape.path(), mark.dashes)
        for piece in pieces:
            shape = _svg_shape(mark.shape) if piece is None else _polyline(piece)
            rows.append(f'<{shape} stroke-width="{width:.3f}"{dashes}/>')
    for head in sheet.heads:
        points = " ".join(f"{x:.3f},{y:.3f}" for x, y in head)
        rows.append(f'<polygon points="{points}" fill="#000000" stroke="none"/>')
    rows.append("</g>")
    for words in sheet.words:
        x, y = words.at[0] * grown, (high - words.at[1]) * grown
        size = words.height / 0.72 * grown
        rows.append(
            f'<text transform="translate({x:.3f} {y:.3f}) rotate({-words.turn})" y="'
            f'{0.36 * size:.3f}" font-size="{size:.3f}" text-anchor="middle">{words.text}</text>'
        )
    return "\n".join([*rows, "</svg>"]).encode()


def _svg_shape(shape) -> str:  # type: ignore[no-untyped-def]
    if isinstance(shape, Straight):
        (a, b), (c, d) = shape.start, shape.end
        return f'line x1="{a:.4f}" y1="{b:.4f}" x2="{c:.4f}" y2="{d:.4f}"'
    if isinstance(shape, Bow) and shape.is_closed:
        return (
            f'circle cx="{shape.centre[0]:.4f}" cy="{shape.centre[1]:.4f}" r="{shape.radius:.4f}"'
        )
    if isinstance(shape, Bow):
        (a, b), (c, d) = shape.start, shape.end
        large = int(shape.last - shape.first > math.pi)
        radii = f"{shape.radius:.4f} {shape.radius:.4f}"
        return f'path d="M {a:.4f} {b:.4f} A {radii} 0 {large} 1 {c:.4f} {d:.4f}"'
    return _polyline(shape.path())


def _polyline(places) -> str:  # type: ignore[no-untyped-def]
    return 'polyline points="' + " ".join(f"{x:.4f},{y:.4f}" for x, y in places) + '"'
