"""The example of a TLS proxy, with everything a phone does through it; and the service units."""

import http.cookiejar
import json
import re
import shutil
import signal
import ssl
import subprocess
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from ops.database import free_port
from ops.installation import Installation, Settings
from ops.paths import ROOT
from ops.serving import MANAGE, begin, web_server

UNITS = ROOT / "docs" / "operating"
WHOLE = """
user root;
worker_processes 1; pid {folder}/nginx.pid; error_log {folder}/error.log; daemon off;
events {{ worker_connections 256; }}
http {{
  access_log off; client_body_temp_path {folder}/b; proxy_temp_path {folder}/p; fastcgi_temp_path {folder}/f; uwsgi_temp_path {folder}/u;
  scgi_temp_path {folder}/s;
{site}
}}
"""


class Phone:
    """A browser that trusts the test's certificate."""

    def __init__(self, url: str, certificate: Path) -> None:
        self.url = url
        context = ssl.create_default_context(cafile=str(certificate))
        self.cookies = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(
            urllib.request.HTTPSHandler(context=context), urllib.request.HTTPCookieProcessor(self.cookies)
        )

    def say(self, method: str, path: str, body: Any = None) -> Any:
        """The answer's JSON."""
        with self.ask(method, path, body) as answer:
            return json.loads(answer.read())

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        token = next((cookie.value for cookie in self.cookies if cookie.name == "csrftoken"), "") or ""
        headers = {"Content-Type": "application/json", "X-CSRFToken": token, "Referer": self.url + "/", "Origin": self.url}
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(self.url + path, data, headers, method=method)
        return self.opener.open(request, timeout=20)


@pytest.fixture(scope="module")
def phone(installed: Installation, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Phone]:
    folder = tmp_path_factory.mktemp("proxy")
    port = free_port()
    url = f"https://localhost:{port}"
    tls = Installation(folder / "tls")
    tls.keep(Settings(url, free_port(), workers=2, server=installed.database()))
    shutil.copy(installed.folder / "secret-key", tls.folder / "secret-key")
    key, certificate = folder / "key.pem", folder / "certificate.pem"
    subject = ["-subj", "/CN=localhost", "-addext", "subjectAltName=DNS:localhost"]
    command = ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-keyout", str(key), "-out", str(certificate)]
    subprocess.run([*command, *subject], check=True, capture_output=True)
    (folder / "nginx.conf").write_text(WHOLE.format(folder=folder, site=site(port, tls.settings.port, certificate, key)))
    env = tls.environment()
    server = begin(web_server(tls.settings.port, 2), env, ROOT / "server")
    proxy = begin(["nginx", "-c", str(folder / "nginx.conf"), "-p", str(folder)], env)
    try:
        made = Phone(url, certificate)
        until = time.monotonic() + 30
        while True:
            try:
                made.say("GET", "/api/health/ready")
                break
            except OSError:
                assert time.monotonic() < until, "the proxy does not answer"
                time.sleep(0.2)
        yield made
    finally:
        for process in (proxy, server):
            process.send_signal(signal.SIGTERM)
            process.wait(20)


def site(port: int, upstream: int, certificate: Path, key: Path) -> str:
    """The example, with the three lines a shop sets."""
    text = (UNITS / "nginx.conf").read_text()
    for line, instead in (
        ("server 127.0.0.1:8420;", f"server 127.0.0.1:{upstream};"),
        ("listen 443 ssl;", f"listen {port} ssl;"),
        ("server_name yoshi.shop.example;", "server_name localhost;"),
        ("/etc/letsencrypt/live/yoshi.shop.example/fullchain.pem", str(certificate)),
        ("/etc/letsencrypt/live/yoshi.shop.example/privkey.pem", str(key)),
    ):
        assert line in text, line
        text = text.replace(line, instead)
    return text


def test_a_phone_signs_in_streams_and_uploads_through_the_proxy(phone: Phone, installed: Installation) -> None:
    with phone.ask("GET", "/") as page:
        assert "max-age=" in page.headers["Strict-Transport-Security"]
    me = phone.say("POST", "/api/session", {"username": "orrin", "password": "quillon-ridge"})
    assert me["role"] == "technician"
    assert all(cookie.secure for cookie in phone.cookies)
    code = phone.say("POST", "/api/jobs", {"key": "proxy-key-1", "kind": "charge", "title": "by the proxy"})["code"]
    rows = "".join(f"2026-11-01T10:{n // 60 % 60:02d}:{n % 60:02d}.{n // 3600:03d}Z,vacuum,micron,{500 + n % 9}\n" for n in range(40_000))
    with phone.ask("GET", f"/api/jobs/{code}/live") as stream:
        assert stream.headers["Content-Type"].startswith("text/event-stream")
        change = {"path": "/steps/identify/runs/0/sheet/oil", "value": "POE"}
        phone.say("POST", f"/api/jobs/{code}/changes", {"key": "proxy-key-2", "changes": [change]})
        began = time.monotonic()
        while not stream.readline().startswith(b"event: job"):
            assert time.monotonic() - began < 10.0, "the stream does not come through"
    task = phone.say("POST", f"/api/jobs/{code}/log", {"text": "at,instrument,unit,value\n" + rows})
    worker = begin([*MANAGE, "work"], installed.environment())
    try:
        began = time.monotonic()
        while task["state"] in {"waiting", "running"} and time.monotonic() - began < 60.0:
            time.sleep(0.5)
            task = phone.say("GET", f"/api/tasks/{task['id']}")
    finally:
        worker.terminate()
        worker.wait(20)
    assert task["result"] == {"written": 40_000, "rows": []}
    address = phone.say("GET", "/api/me/account")["sessions"][0]["address"]
    assert address == "127.0.0.1", "whom the proxy saw"


def test_what_the_proxy_keeps_to_itself(phone: Phone) -> None:
    with pytest.raises(urllib.error.HTTPError) as caught:
        phone.say("GET", "/metrics")
    assert caught.value.code == 404
    caught.value.close()


@pytest.mark.parametrize("unit", sorted(path.name for path in UNITS.glob("yoshi*.*")))
def test_a_service_unit_is_in_order(unit: str, tmp_path: Path) -> None:
    """Looked through, not started: with the code's folder where it is here and a person there is."""
    for path in UNITS.glob("yoshi*.*"):
        text = path.read_text().replace("/opt/yoshi", str(ROOT))
        (tmp_path / path.name).write_text(re.sub(r"^User=.*$", "User=root", text, flags=re.MULTILINE))
    done = subprocess.run(
        ["systemd-analyze", "verify", "--man=no", "--recursive-errors=one", str(tmp_path / unit)],
        capture_output=True,
        text=True,
        check=False,
    )
    said = [line for line in done.stderr.splitlines() if unit in line]
    assert (done.returncode, said) == (0, []), done.stderr


def read(address: str | urllib.request.Request) -> str:
    with urllib.request.urlopen(address, timeout=5) as answer:
        text: str = answer.read().decode()
        return text


def test_metrics_for_who_has_the_token_and_two_processes_counted_together(phone: Phone, installed: Installation) -> None:
    port = free_port()
    env = {**installed.environment(), "YOSHI_PORT": str(port)}
    server = begin(web_server(port, 2), env, ROOT / "server")
    try:
        base = f"http://127.0.0.1:{port}"
        until = time.monotonic() + 30
        while True:
            try:
                read(f"{base}/api/health/live")
                break
            except OSError:
                assert time.monotonic() < until
                time.sleep(0.2)
        for _ in range(20):
            read(f"{base}/api/health/ready")
        token = {"Authorization": f"Bearer {env['YOSHI_METRICS_TOKEN']}"}
        text = read(urllib.request.Request(f"{base}/metrics", headers=token))
        found = re.search(r'yoshi_requests_total\{method="GET",route="/health/ready",status="200"\} (\d+)', text)
        assert found
        assert int(found[1]) == 20
        assert 'yoshi_tasks{state="waiting"}' in text
        with pytest.raises(urllib.error.HTTPError) as caught:
            read(f"{base}/metrics")
        caught.value.close()
    finally:
        server.send_signal(signal.SIGTERM)
        server.wait(20)


def test_the_queue_is_worked_on_by_a_process_of_its_own(installed: Installation, tmp_path: Path) -> None:
    """Mail of an invitation leaves by the server of the settings; here one that keeps it."""
    port = free_port()
    env = {**installed.environment(), "YOSHI_MAIL_HOST": "127.0.0.1", "YOSHI_MAIL_PORT": str(port)}
    catcher = begin([MANAGE[0], "-m", "standins.mail", "--port", str(port), "--folder", str(tmp_path)], env)
    worker = begin([*MANAGE, "work"], env)
    try:
        code = "from accounts.mail import send; from accounts.models import Shop; send(Shop.objects.first(), 'a@shop.test', 'Hello', 'It works.')"
        subprocess.run([*MANAGE, "shell", "-v", "0", "-c", code], env=env, check=True, capture_output=True)
        until = time.monotonic() + 40
        while not list(tmp_path.glob("*.eml")):
            assert time.monotonic() < until
            time.sleep(0.2)
        assert "It works." in next(iter(tmp_path.glob("*.eml"))).read_text()
    finally:
        for process in (worker, catcher):
            process.send_signal(signal.SIGTERM)
            process.wait(20)
