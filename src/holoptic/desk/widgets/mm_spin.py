"""A small field for a length on paper, kept in mm and shown in the job's unit."""

from __future__ import annotations

from PyQt6.QtWidgets import QDoubleSpinBox

from holoptic.units import Unit


class MmSpin(QDoubleSpinBox):
    """A spin box without buttons; `mm` is what it stands at."""

    def __init__(
        self, largest_mm: float, places: int, step_mm: float = 1.0, least_mm: float = 0.0
    ) -> None:
        super().__init__()
        self._least = least_mm
        self._largest, self._places, self._step = largest_mm, places, step_mm
        self._unit = Unit.MM
        self._mm = 0.0
        self.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
        self.use_unit(Unit.MM)

    def use_unit(self, unit: Unit) -> None:
        """Show lengths in another unit."""
        self._unit = unit
        self.setSuffix(f" {unit.label}")
        self.setDecimals(self._places if unit is Unit.MM else self._places + 2)
        self.setSingleStep(self._step if unit is Unit.MM else self._step / 10)
        self.setRange(self._least / unit.mm, self._largest / unit.mm)

    def show_mm(self, mm: float) -> None:
        """Show a length, unless the user is typing here."""
        self._mm = mm
        if not self.hasFocus():
            self.setValue(mm / self._unit.mm)

    @property
    def mm(self) -> float:
        """The length, mm; the very one that was shown where nothing was typed since."""
        shown = round(self._mm / self._unit.mm, self.decimals())
        if abs(self.value() - shown) < 0.5 * 10.0 ** -self.decimals():
            return self._mm
        return round(self.value() * self._unit.mm, 4)
