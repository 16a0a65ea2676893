"""What is said where a drawing does not fit its sheet: by how much, and the ways out by number."""

from __future__ import annotations

from functools import partial

from holoptic.desk.session.session import Session
from holoptic.desk.widgets.notice import Notice, sentence
from holoptic.units.spoken import said

_MOST = 4


class MisfitNotice(Notice):
    """Stands over the page until everything fits; a number or a click takes a way out."""

    def __init__(self, session: Session) -> None:
        super().__init__("notice", stacked=True)
        self._session = session

    def refresh(self) -> None:
        """Show the trouble of the sheet on the desk, if it has one."""
        laid = self._session.answers.laid
        misfit = laid.misfit if laid else None
        if misfit is None:
            self.quiet()
            return
        unit = self._session.document.unit
        ways = {
            f"{number + 1}  {said(way.words, unit)}": partial(self.take, number)
            for number, way in enumerate(misfit.ways_out[:_MOST])
        }
        self.say(f"{sentence(said(misfit.trouble, unit))}.", ways)

    def take(self, number: int) -> None:
        """Take a way out."""
        laid = self._session.answers.laid
        if laid is None or laid.misfit is None:
            return
        if number < min(len(laid.misfit.ways_out), _MOST):
            self._session.document.take_way_out(laid.misfit.ways_out[number])
