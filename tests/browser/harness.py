"""A real server on a free port with a database of its own, and a headless browser to look at it with."""

from __future__ import annotations

import os
import shutil
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.chrome.service import Service

_FLAGS = [
    "--headless",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--hide-scrollbars",
    "--force-prefers-reduced-motion",
]
_START_WITHIN_S = 20.0


class Server:
    """``vivid-lattice serve`` in a process of its own."""

    def __init__(self, *, with_demo: bool = True, database: Path | None = None, port: int | None = None):
        self._folder = tempfile.mkdtemp(prefix="vivid-lattice-")
        self.database = database or Path(self._folder) / "test.sqlite3"
        self.port = port or _free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        command = [
            sys.executable,
            "-m",
            "vivid_lattice.cli",
            "serve",
            "--port",
            str(self.port),
            "--database",
            str(self.database),
        ]
        environment = {name: value for name, value in os.environ.items() if name != "VIVID_LATTICE_TOKEN"}
        self.process = subprocess.Popen(
            command + (["--with-demo"] if with_demo else []),
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            env=environment,
        )
        self._wait()

    def _wait(self) -> None:
        end = time.monotonic() + _START_WITHIN_S
        while time.monotonic() < end:
            try:
                with urllib.request.urlopen(f"{self.url}/api/health", timeout=1):
                    return
            except OSError:
                time.sleep(0.05)
        self.stop()
        raise RuntimeError("the server did not start")

    def kill(self) -> None:
        """Stop it without warning, as a power cut would."""
        self.process.kill()
        self.process.wait()

    def stop(self) -> None:
        """Stop it and forget its database."""
        self.process.terminate()
        self.process.wait()
        shutil.rmtree(self._folder, ignore_errors=True)


def open_browser(width: int = 1280, height: int = 800) -> webdriver.Chrome:
    """A headless browser whose page is exactly so many pixels large."""
    options = webdriver.ChromeOptions()
    options.binary_location = shutil.which("chromium") or "/usr/bin/chromium"
    for flag in _FLAGS:
        options.add_argument(flag)
    options.add_argument(f"--user-data-dir={tempfile.mkdtemp(prefix='vivid-lattice-browser-')}")
    options.add_argument(f"--window-size={width},{height}")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    browser = webdriver.Chrome(
        options=options, service=Service(shutil.which("chromedriver") or "/usr/bin/chromedriver")
    )
    resize(browser, width, height)
    return browser


def resize(browser: webdriver.Chrome, width: int, height: int) -> None:
    """Make the page itself so many pixels large, whatever the window's frame takes."""
    metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    browser.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
