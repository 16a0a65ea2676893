"""Write docs/job.schema.json, the published schema of the job file."""

from __future__ import annotations

import json
from pathlib import Path

from holoptic.exchange.job_file import job_schema

TARGET = Path(__file__).parent.parent / "docs" / "job.schema.json"

if __name__ == "__main__":
    text = json.dumps(job_schema(), indent=1, ensure_ascii=False) + "\n"
    TARGET.write_text(text, encoding="utf-8")
