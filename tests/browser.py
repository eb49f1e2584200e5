"""A browser for tests of pages: headless Chromium, driven by the WebDriver protocol (W3C)."""

from __future__ import annotations

import json
import shutil
import socket
import subprocess
import time
import urllib.error
import urllib.request
from pathlib import Path
from typing import Any, Final

import pytest

_DRIVER: Final = shutil.which("chromedriver")
_CHROMIUM: Final = shutil.which("chromium") or shutil.which("chromium-browser")
needs_browser: Final = pytest.mark.skipif(
    _DRIVER is None or _CHROMIUM is None,
    reason="needs Debian's chromium and chromium-driver, which .ci/run installs",
)
_ELEMENT: Final = "element-6066-11e4-a52e-4f735466cecf"
_START_S: Final = 20.0


class Browser:
    """One window of a phone's size, without a network. downloads : where files are saved"""

    def __init__(self, downloads: Path, width: int = 390, height: int = 844, *, dark: bool = False):
        assert _DRIVER is not None
        assert _CHROMIUM is not None
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        self._at = f"http://127.0.0.1:{port}"
        self.downloads = downloads
        self._driver = subprocess.Popen(
            [_DRIVER, f"--port={port}"], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
        arguments = [
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--no-first-run",
            "--host-resolver-rules=MAP * ~NOTFOUND",
            f"--user-data-dir={downloads / 'profile'}",
        ]
        if dark:
            arguments.append("--force-dark-mode")
        wanted = {
            "goog:chromeOptions": {
                "binary": _CHROMIUM,
                "args": arguments,
                "prefs": {"download.default_directory": str(downloads)},
                "mobileEmulation": {
                    "deviceMetrics": {"width": width, "height": height, "pixelRatio": 2.0}
                },
            },
            "goog:loggingPrefs": {"browser": "ALL"},
        }
        self._session = ""
        self._wait_for_the_driver()
        made = self._call("POST", "/session", {"capabilities": {"alwaysMatch": wanted}})
        self._session = f"/session/{made['sessionId']}"

    def _wait_for_the_driver(self) -> None:
        end = time.monotonic() + _START_S
        while True:
            try:
                self._call("GET", "/status")
                return
            except (urllib.error.URLError, ConnectionError):
                assert time.monotonic() < end, "chromedriver does not answer"
                time.sleep(0.05)

    def _call(self, how: str, path: str, what: dict[str, Any] | None = None) -> Any:
        data = None if how == "GET" else json.dumps(what or {}).encode()
        request = urllib.request.Request(f"{self._at}{path}", data, method=how)
        request.add_header("Content-Type", "application/json")
        with urllib.request.urlopen(request, timeout=60) as answer:
            return json.loads(answer.read())["value"]

    def open(self, page: Path) -> None:
        self._call("POST", f"{self._session}/url", {"url": page.as_uri()})

    def run(self, script: str, *given: object) -> Any:
        """The value of a script's `return`."""
        what = {"script": script, "args": list(given)}
        return self._call("POST", f"{self._session}/execute/sync", what)

    def tap(self, css: str) -> None:
        """A touch in the middle of an element."""
        found = self._call(
            "POST", f"{self._session}/element", {"using": "css selector", "value": css}
        )
        self.run("arguments[0].scrollIntoView({block: 'center'})", found)
        finger = {
            "type": "pointer",
            "id": "finger",
            "parameters": {"pointerType": "touch"},
            "actions": [
                {"type": "pointerMove", "duration": 0, "origin": found, "x": 0, "y": 0},
                {"type": "pointerDown", "button": 0},
                {"type": "pointerUp", "button": 0},
            ],
        }
        self._call("POST", f"{self._session}/actions", {"actions": [finger]})

    def type(self, css: str, text: str) -> None:
        found = self._call(
            "POST", f"{self._session}/element", {"using": "css selector", "value": css}
        )
        self._call("POST", f"{self._session}/element/{found[_ELEMENT]}/value", {"text": text})

    def said(self) -> list[str]:
        """What the browser wrote to its console since it was asked last."""
        log = self._call("POST", f"{self._session}/se/log", {"type": "browser"})
        return [str(line["message"]) for line in log]

    def picture(self, target: Path) -> None:
        import base64

        target.write_bytes(base64.b64decode(self._call("GET", f"{self._session}/screenshot")))

    def downloaded(self, name: str) -> str:
        """The text of a file that was saved, once it is there."""
        end = time.monotonic() + _START_S
        while not (self.downloads / name).exists():
            assert time.monotonic() < end, f"{name} was not saved"
            time.sleep(0.02)
        return (self.downloads / name).read_text()

    def close(self) -> None:
        try:
            self._call("DELETE", self._session)
        finally:
            self._driver.terminate()
            self._driver.wait(10)
