"""Servers to test against, and a headless browser to look at them with.

``Server`` is the program in a process of its own, to be killed and started again. ``SharedServer`` is the same application in
a thread of the test process: one for all tests of a process, with a fresh database for each.
"""

from __future__ import annotations

import atexit
import os
import shutil
import socket
import subprocess
import sys
import tempfile
import threading
import time
import urllib.request
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path

import uvicorn
from selenium import webdriver
from selenium.common.exceptions import NoAlertPresentException, WebDriverException
from selenium.webdriver.chrome.service import Service

from vivid_lattice.api.app import create_app
from vivid_lattice.cli.serve import load_demos

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
_START_WITHIN_S = 90.0


class Server:
    """``vivid-lattice serve`` in a process of its own. ``lan_port``: also on the local network, at that port."""

    def __init__(
        self,
        *,
        with_demo: bool = True,
        database: Path | None = None,
        port: int | None = None,
        lan_port: int | None = None,
    ):
        self._folder = tempfile.mkdtemp(prefix="vivid-lattice-")
        self.database = database or Path(self._folder) / "test.sqlite3"
        self.port = port or free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        command = [
            sys.executable,
            "-m",
            "vivid_lattice.cli.main",
            "serve",
            "--port",
            str(self.port),
            "--database",
            str(self.database),
        ]
        environment = {name: value for name, value in os.environ.items() if name != "VIVID_LATTICE_TOKEN"}
        self.process = subprocess.Popen(
            command
            + (["--with-demo"] if with_demo else [])
            + (["--lan", "--lan-port", str(lan_port)] if lan_port else []),
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            env=environment,
        )
        self._wait()

    def _wait(self) -> None:
        end = time.monotonic() + _START_WITHIN_S
        while time.monotonic() < end and self.process.poll() is None:
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


class SharedServer:
    """The application in a thread of this process. ``database``: that of the running test."""

    def __init__(self) -> None:
        self._folder = Path(tempfile.mkdtemp(prefix="vivid-lattice-"))
        self._template = self._folder / "demos.sqlite3"
        self._empty = self._folder / "empty.sqlite3"
        self._app = create_app(self._template)
        shutil.copy(self._template, self._empty)
        load_demos(self._template)
        self.database = self._template
        self._databases = 0
        self.port = free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self._server = uvicorn.Server(uvicorn.Config(self._app, port=self.port, log_level="error"))
        self._thread = threading.Thread(target=self._server.run, daemon=True)
        self._thread.start()
        end = time.monotonic() + _START_WITHIN_S
        while not self._server.started:
            if time.monotonic() > end:
                raise RuntimeError("the server did not start")
            time.sleep(0.02)

    def renew(self, *, demos: bool = True) -> None:
        """A fresh database with the demo jobs, or with nothing, in a folder of its own."""
        self._databases += 1
        folder = self._folder / str(self._databases)
        folder.mkdir()
        self.database = Path(shutil.copy(self._template if demos else self._empty, folder / "test.sqlite3"))
        self._app.state.database = self.database

    def stop(self) -> None:
        """Stop it and forget its databases."""
        self._server.should_exit = True
        self._thread.join(10)
        shutil.rmtree(self._folder, ignore_errors=True)


class Shared:
    """The one server and the one browser of a test process, started when they are first asked for."""

    _server: SharedServer | None = None
    _browser: webdriver.Chrome | None = None

    @classmethod
    def server(cls) -> SharedServer:
        """The server."""
        if cls._server is None:
            cls._server = SharedServer()
            atexit.register(cls._server.stop)
        return cls._server

    @classmethod
    def browser(cls) -> webdriver.Chrome:
        """The browser, as new: one empty page of 1280 by 800, nothing stored, nothing logged."""
        if cls._browser is not None:
            try:
                _as_new(cls._browser)
            except WebDriverException:  # it has crashed; the next test gets another one
                cls._browser.quit()
                cls._browser = None
        if cls._browser is None:
            cls._browser = open_browser()
            atexit.register(cls._browser.quit)
        return cls._browser


def _as_new(browser: webdriver.Chrome) -> None:
    with suppress(NoAlertPresentException):
        browser.switch_to.alert.accept()
    first, *others = browser.window_handles
    for handle in others:
        browser.switch_to.window(handle)
        browser.close()
    browser.switch_to.window(first)
    origin = browser.execute_script("return window.location.origin")
    browser.get("about:blank")
    with suppress(NoAlertPresentException):
        browser.switch_to.alert.accept()
    if origin.startswith("http"):
        browser.execute_cdp_cmd("Storage.clearDataForOrigin", {"origin": origin, "storageTypes": "all"})
    browser.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": ""})
    resize(browser, 1280, 800)
    browser.get_log("browser")


def open_browser(width: int = 1280, height: int = 800, flags: Sequence[str] = ()) -> webdriver.Chrome:
    """A headless browser whose page is exactly so many pixels large."""
    options = webdriver.ChromeOptions()
    options.binary_location = shutil.which("chromium") or "/usr/bin/chromium"
    for flag in (*_FLAGS, *flags):
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


def free_port() -> int:
    """A port that no server listens at."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])
