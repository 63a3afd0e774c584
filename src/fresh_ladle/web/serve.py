"""Starts the workbench on this machine only."""

from __future__ import annotations

import sys
from pathlib import Path

import uvicorn

from fresh_ladle.store.database import StoreError
from fresh_ladle.web.app import create_app
from fresh_ladle.web.demo import load_demo


def serve(port: int, database: Path, with_demo: bool) -> int:
    """Serves on 127.0.0.1 until stopped. Returns 1, with the reason on standard error, when it cannot start."""
    try:
        app = create_app(database)
    except StoreError as error:
        print(error, file=sys.stderr)
        return 1
    if with_demo:
        workbench = app.state.workbench
        with workbench.store() as connection:
            loaded = load_demo(connection, workbench)
            print("Demo data loaded." if loaded else "Demo data was there already.", flush=True)
    print(f"Fresh Ladle is at http://127.0.0.1:{port}/ (Ctrl-C stops it)", flush=True)
    uvicorn.run(app, host="127.0.0.1", port=port, log_level="warning", access_log=False)
    app.state.workbench.close()
    return 0
