"""What the tours say and do: a minute for each page, made of keys that really are pressed.

A step's words stand while they are read; then its keys are pressed and its text is typed, as a hand
would, on a job of the demo.
"""

from __future__ import annotations

from typing import NamedTuple

from holoptic.catalogue import tr


class Step(NamedTuple):
    """Words, then the usual keys that are pressed, then a text that is typed `into` a field."""

    words: str
    keys: tuple[str, ...] = ()
    text: str = ""
    into: str = ""


class Tour(NamedTuple):
    """The steps of a page, on a job of the demo."""

    steps: tuple[Step, ...]
    job: str = "harbour-lamp"


TOURS: dict[str, Tour] = {
    "read": Tour((
        Step(tr("Views become the part. Here one of the demo's drawings is opened."), ("1",)),
        Step(tr("Front, top and right were found by how they stand to each other. R reads them."),
             ("R",)),
        Step(tr("Every line is accounted for. L lays the answer over the drawing, to compare."),
             ("L",)),
        Step(tr("L once more takes it away; each of its features has a name in the list."), ("L",)),
        Step(tr("Enter would take the part into the job. X closes the drawing again."), ("X",)),
    )),
    "carve": Tour((
        Step(tr("A part is cut from its crate, feature by feature: the list has them in order. "
                "Alt+C begins one more cut."), ("Alt+C",)),
        Step(tr("Its outline lies on a face of the crate. Its corners are typed; L, D and H are "
                "the crate's sizes."), (), "0, H; 9.5, H; 9.5, H-7; 0, H-7",
             tr("corners of the outline")),
        Step(tr("Picture and views follow while one types. Alt+D doubles the operation."),
             ("Alt+D",)),
        Step(tr("Alt+O leaves one out, Alt+O puts it back."), ("Alt+O",)),
        Step(tr("Alt+Del removes it, and everything can be taken back: Ctrl+Z."),
             ("Alt+Del", "Ctrl+Z")),
    )),
    "picture": Tour((
        Step(tr("Five kinds and near corners are proposed, the best first, with what they show. "
                "2 takes the second."), ("2",)),
        Step(tr("H steps through hidden lines: left out, thin, dashed."), ("H", "H")),
        Step(tr("T draws the outline thick where a face vanishes behind an edge."), ("T",)),
        Step(tr("E goes from edge to edge: the line below says its true and its drawn length."),
             ("E", "E", "E")),
        Step(tr("X proposes where to cut it open, so that what is hidden comes to light."), ("X",)),
        Step(tr("A number takes a cut; Shift+X makes it whole again."), ("1", "Shift+X")),
    )),
    "spread": Tour((
        Step(tr("The lamp together and apart. The order is worked out: what lies in whose way."),),
        Step(tr("Space pushes it together, space draws it apart."), ("Space",)),
        Step(tr("Again: everything moves along one axis, and hides no telling feature."),
             ("Space",)),
        Step(tr("N goes from part to part; it lights up in both pictures, the strip and the list."),
             ("N", "N")),
        Step(tr("A takes another axis, and says what comes of it. Ctrl+Z takes that back."),
             ("A", "Ctrl+Z")),
    ), "lamp-put-together"),
    "sheet": Tour((
        Step(tr("Paper and scale are planned before the first line. The cards below are the ways "
                "that fit; 2 takes the second."), ("2",)),
        Step(tr("D puts the sizes on, complete: the slip says whether the part can be made from "
                "them."), ("D",)),
        Step(tr("E takes a dimension in hand, the full stop puts it at its next good place."),
             ("E", ".")),
        Step(tr("S shades the faces away from the light by parallel lines."), ("S",)),
        Step(tr("U turns the sheet round. The start point is measured from the border."), ("U",)),
    )),
    "draw": Tour((
        Step(tr("The setting card says the hand's next move. Space draws it."), ("Space",)),
        Step(tr("Border and title block come first, each length set off along a line."),
             ("Space",) * 4),
        Step(tr("PgDown goes on by phase: now the crate stands."), ("PgDown",) * 3),
        Step(tr("From there each feature is set off along the axes and joined."), ("Space",) * 6),
        Step(tr("E shows how far each point may be off, by the spread of your hand."), ("E",)),
        Step(tr("Backspace takes a move up again, Home goes to the start."), ("Backspace", "Home")),
    )),
    "check": Tour((
        Step(tr("A drawn sheet is laid beside its plan. Here the demo's scan is taken."), ("1",)),
        Step(tr("What is missing, off or too much is marked; the likeliest cause stands first."),
             ("Down",)),
        Step(tr("Down goes to the next deviation, and the sheet shows it large."), ("Down",)),
        Step(tr("Space exchanges the sheet as it is drawn with the sheet as it should be."),
             ("Space", "Space")),
        Step(tr("R would draw again what is off, move by move. X puts the sheet away."), ("X",)),
    )),
    "register": Tour((
        Step(tr("The register keeps itself. Who draws with the space bar is timed, move by move.")),
        Step(tr("Each sheet that is checked tells how far the hand's settings scatter.")),
        Step(tr("H lets plans reckon with that hand instead of a usual one.")),
        Step(tr("T writes it all as a table. Nothing of it leaves this machine.")),
    )),
    "practice": Tour((
        Step(tr("An exercise, made for you and marked at once. A letter answers."), ("A",)),
        Step(tr("Enter marks it, and says why it is right or not."), ("Enter",)),
        Step(tr("A question mark gives a hint, for a quarter of the points."), ("?",)),
        Step(tr("The answer can always be shown, by the equals sign."), ("=",)),
        Step(tr("Ctrl+Enter makes another one; the column has all skills and levels."),
             ("Ctrl+Enter",)),
    )),
}  # fmt: skip
