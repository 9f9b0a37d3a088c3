"""A coordinator of the demo's job at a running server, for benches."""
import http.cookiejar
import re
import urllib.parse
import urllib.request

PIECE = 4 << 20


class Session:
    def __init__(self, base):
        self.base = base
        self.web = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar()))

    def get(self, path):
        with self.web.open(self.base + path) as answer:
            return answer.read()

    def post(self, path, body=b"", token=""):
        headers = {"RequestVerificationToken": token, "Content-Type": "application/octet-stream"} if token else {}
        with self.web.open(urllib.request.Request(self.base + path, data=body, headers=headers)) as answer:
            return answer.read()

    def token_of(self, path):
        return re.search(rb'name="__RequestVerificationToken" type="hidden" value="([^"]+)"', self.get(path)).group(1).decode()

    def sign_in(self):
        form = {"Email": "coordinator@heron.example", "Password": "heron-wharf-2026", "__RequestVerificationToken": self.token_of("/signin")}
        self.post("/signin", urllib.parse.urlencode(form).encode())
