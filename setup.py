"""Puts the guide and the compiled C part into the wheel; without a compiler it does without."""

import importlib.util
import shutil
from pathlib import Path

from setuptools import Distribution, setup
from setuptools.command.build_py import build_py

_PACKAGE = Path("holoptic", "solid", "seeing")


class BuildAndCompile(build_py):
    """Copies the package with the guide, and compiles the C part in the copy."""

    def run(self) -> None:
        """Build."""
        super().run()
        if self.editable_mode:
            return
        guide = Path(self.build_lib, "holoptic", "assets", "guide")
        shutil.copytree("docs/screenshots", guide / "screenshots", dirs_exist_ok=True)
        shutil.copy("docs/guide.md", guide)
        copy = Path(self.build_lib, _PACKAGE, "compiled.py")
        spec = importlib.util.spec_from_file_location("compiled", copy)
        module = importlib.util.module_from_spec(spec)
        spec.loader.exec_module(module)
        if not module.build():
            self.warn("no C compiler: hidden lines will be found by the geometry kernel")


class OneMachine(Distribution):
    """What is compiled is for one sort of machine."""

    def has_ext_modules(self) -> bool:
        """Say so."""
        return True


setup(cmdclass={"build_py": BuildAndCompile}, distclass=OneMachine)
