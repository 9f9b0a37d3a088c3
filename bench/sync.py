"""Shares 500 topics of each side with the stand-in server, then has 1 000 changes exchanged: 500 comments here, 500 there. What is here is made
through BCF API, what is there through the stand-in's own."""
import concurrent.futures
import http.cookiejar
import json
import re
import sys
import time
import urllib.parse
import urllib.request

base, = sys.argv[1:]
EACH, LIMIT = 500, 20
THERE, PROJECT = base + "/stand-in/topics", "ferry-2026"
jar = http.cookiejar.CookieJar()
web = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))


def get(address):
    with web.open(base + address) as answer:
        return answer.read().decode()


def form(page, handler, **fields):
    fields["__RequestVerificationToken"] = re.search(r'name="__RequestVerificationToken" type="hidden" value="([^"]+)"', get(page)).group(1)
    with web.open(base + page + (f"?handler={handler}" if handler else ""), data=urllib.parse.urlencode(fields).encode()) as answer:
        return answer.read().decode()


def post(address, token, body):
    request = urllib.request.Request(address, data=json.dumps(body).encode(), headers={"Content-Type": "application/json", "Authorization": "Bearer " + token})
    with urllib.request.urlopen(request) as answer:
        return json.load(answer)


def all_of(work):
    with concurrent.futures.ThreadPoolExecutor(4) as pool:
        return list(pool.map(work, range(EACH)))


def exchanged(page, id=None):
    started = time.perf_counter()
    if id:
        form(page, "Now", id=id)
    while "data-state=\"Same\"" not in (shown := get(page + "?handler=List")):
        if "data-state=\"Failed\"" in shown or "data-state=\"Left\"" in shown:
            sys.exit(re.sub(r"<[^>]+>|\s+", " ", shown))
        time.sleep(0.1)
    return time.perf_counter() - started, re.search(r"(\d+ topics? received, \d+ topics? sent)", shown).group(1)


form("/signin", "", Email="coordinator@heron.example", Password="heron-wharf-2026")
ours = re.search(r'id="secret">([^<]+)<', form("/account", "Token", name="bench", scope="topics", days="1")).group(1)
job = json.loads(get("/bcf/3.0/projects"))[0]["project_id"]
here, there = f"{base}/bcf/3.0/projects/{job}/topics", f"{THERE}/bcf/3.0/projects/{PROJECT}/topics"
mine = all_of(lambda n: post(here, ours, {"title": f"Ours {n}", "topic_type": "Question"})["guid"])
theirs = all_of(lambda n: post(there, "stand-in-token", {"title": f"Theirs {n}"})["guid"])
page = "/jobs/HW/topics/servers"
id = re.search(r'name="id" value="([0-9a-f-]{36})"', form(page, "Add", address=THERE, name="Ferry", signIn="token", secret="stand-in-token")).group(1)
form(page, "Choose", id=id, project=PROJECT, frame="job", own="true")
took, said = exchanged(page)
print(f"first exchange: {said} in {took:.1f} s")
all_of(lambda n: post(f"{here}/{mine[n]}/comments", ours, {"comment": f"ours {n}"}))
all_of(lambda n: post(f"{there}/{theirs[n]}/comments", "stand-in-token", {"comment": f"theirs {n}"}))
took, said = exchanged(page, id)
print(f"1 000 changes: {said} in {took:.1f} s (limit {LIMIT}: {'ok' if took <= LIMIT else 'TOO SLOW'})")
