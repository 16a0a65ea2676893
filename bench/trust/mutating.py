"""Files that were damaged at random, of every sort that is read."""

from __future__ import annotations

import json
import random
import traceback
from collections.abc import Callable
from pathlib import Path

from bench.fuzz_dxf import mutated as mutated_dxf
from bench.fuzz_step import mutated as mutated_step
from bench.trust.tally import Tally, run_command
from holoptic.demo import drawing_paths, job_names, job_path, views_photo_path
from holoptic.desk.look.settings import keep_setting, read_settings
from holoptic.exchange.job_file import read_job
from holoptic.exchange.safekeeping import left_behind, recent_files, remember_file
from holoptic.exchange.sheet_template import save_template
from holoptic.places import config_folder, state_folder

_ODD = (None, True, -1, 0, 1e308, -0.0, "", "x", [], {}, [[]], "\ud800", 10**30, "9" * 400,
        "../../etc", "2*R", "((((", "\0", float("nan"))  # fmt: skip


def mutated_json(good: bytes, dice: random.Random) -> bytes:
    """Return JSON with values changed, moved, dropped or doubled, or with its bytes spoiled."""
    if dice.random() < 0.35:
        return spoiled(good, dice)
    content = json.loads(good)
    for _ in range(dice.randint(1, 6)):
        holder = content
        while True:
            keys = list(holder) if isinstance(holder, dict) else range(len(holder))
            if not keys:
                break
            key = dice.choice(keys)
            inner = holder[key]
            if isinstance(inner, dict | list) and inner and dice.random() < 0.8:
                holder = inner
                continue
            way = dice.randrange(4)
            if way == 0:
                holder[key] = dice.choice(_ODD)
            elif way == 1:
                del holder[key]
            elif way == 2 and isinstance(holder, list):
                holder.append(inner)
            else:
                other = dice.choice(keys)
                holder[key], holder[other] = holder[other], holder[key]
            break
    return json.dumps(content).encode("utf-8", "surrogatepass")


def spoiled(good: bytes, dice: random.Random) -> bytes:
    """Return bytes with some changed, dropped or doubled, or cut off."""
    content = bytearray(good)
    for _ in range(dice.randint(1, 8)):
        at = dice.randrange(len(content) or 1)
        if dice.random() < 0.5:
            content[at : at + 1] = bytes([dice.randrange(256)])
        elif dice.random() < 0.5:
            del content[at : at + dice.randint(1, 200)]
        else:
            content[at:at] = content[at : at + dice.randint(1, 200)]
    return bytes(content[: dice.randint(0, len(content))] if dice.random() < 0.2 else content)


def damage_sources(tally: Tally, folder: Path, count: int) -> None:
    """Damage jobs, drawings, solids and templates, and make something of each by a command."""
    jobs = [job_path(name).read_bytes() for name in job_names()]
    drawings = [path.read_bytes() for path in drawing_paths()]
    solid = job_path().with_name("round-parts.step").read_bytes()
    sheet = read_job(job_path()).sheets[0]
    save_template(folder / "good.json", sheet.wish, sheet.title)
    template = (folder / "good.json").read_bytes()
    paper = _on_paper(folder)
    sorts: tuple[tuple[str, str, list[bytes], Callable[[bytes, random.Random], bytes], float], ...]
    sorts = (
        ("damaged jobs", ".holoptic", jobs, mutated_json, 0.4),
        ("damaged drawings (DXF)", ".dxf", drawings, mutated_dxf, 0.15),
        ("damaged solids (STEP)", ".step", [solid], mutated_step, 0.1),
        ("damaged sheet templates", ".json", [template], mutated_json, 0.1),
        *(("damaged views on paper", suffix, [content], spoiled, 0.01)
          for suffix, content in paper.items()),
    )  # fmt: skip
    for what, suffix, originals, mutate, share in sorts:
        for seed in range(round(count * share)):
            file = folder / f"damaged{suffix}"
            file.write_bytes(mutate(originals[seed % len(originals)], random.Random(seed)))
            out = str(folder / "picture.svg")
            if what == "damaged sheet templates":
                end, said = run_command("sheet", str(job_path()), "--template", str(file),
                                        "--out", out, "--force")  # fmt: skip
            elif suffix in paper:
                end, said = run_command("read", str(file), "--seconds", "2", "--out",
                                        str(folder / "read.step"), "--force")  # fmt: skip
            else:
                end, said = run_command("pictorial", str(file), "--out", out, "--force")
            named = file.name in said or end != "refused" or suffix == ".holoptic"
            tally.note(what, end if named else "traceback", f"seed {seed}: {said}")


def _on_paper(folder: Path) -> dict[str, bytes]:
    """Return a sheet of views as pages of lines and as a photo, by the endings of their files."""
    found = {".jpg": views_photo_path().read_bytes()}
    for suffix in (".pdf", ".svg"):
        sheet = folder / f"views{suffix}"
        run_command("sheet", str(job_path()), "--kind", "views", "--out", str(sheet), "--force")
        found[suffix] = sheet.read_bytes()
    return found


def damage_own_files(tally: Tally, count: int) -> None:
    """Damage settings and state, and start as the desk does: it must come up."""
    keep_setting("theme", "dark")
    keep_setting("hand", [0.2, 0.2, 0.2])
    remember_file(job_path())
    kept = {
        "damaged settings": (config_folder() / "settings.json", round(count * 0.1)),
        "damaged recent files": (state_folder() / "recent.json", round(count * 0.08)),
        "damaged notes of safety copies": (state_folder() / "autosave-1.json", round(count * 0.07)),
    }
    (state_folder() / "autosave-1.json").write_text(
        '{"pid": 4194304, "path": "/a", "mark": [1,2,3,4]}'
    )
    for what, (file, number) in kept.items():
        good = file.read_bytes()
        for seed in range(number):
            file.write_bytes(mutated_json(good, random.Random(seed)))
            copy = state_folder() / "autosave-1.holoptic"
            copy.write_bytes(job_path().read_bytes())
            try:
                read_settings()
                recent_files()
                found = left_behind()
            except BaseException:
                tally.note(what, "traceback", f"seed {seed}: {traceback.format_exc()}")
            else:
                # a note may come to name a process that runs: then its copy is that one's
                end = "loaded" if found or "notes" in what else "lost"
                tally.note(what, end, f"seed {seed}: no copy is offered")
