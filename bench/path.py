"""Delivers a model to a running server as the receive page does, and says how long it takes to be ready after its last byte."""
import json
import os
import re
import subprocess
import sys
import threading
import time
import urllib.request

from session import PIECE, Session

base, model, server, bench = sys.argv[1:5]
session = Session(base)
get, post, token_of, sign_in = session.get, session.post, session.token_of, session.sign_in
peaks = {}


def watch_memory():
    """The peak of each process that the server starts, MB."""
    while True:
        for child in subprocess.run(["pgrep", "-P", server], capture_output=True, text=True).stdout.split():
            try:
                text = open(f"/proc/{child}/status").read()
                peaks[child] = int(re.search(r"VmHWM:\s+(\d+)", text).group(1)) / 1024
            except (OSError, AttributeError):
                pass
        # Looking costs too.
        time.sleep(0.5)


def seconds_of(*which):
    """Processor time of processes, seconds."""
    total = 0
    for child in subprocess.run(["pgrep", *which], capture_output=True, text=True).stdout.split():
        try:
            words = open(f"/proc/{child}/stat").read().rsplit(")", 1)[1].split()
            total += (int(words[11]) + int(words[12])) / os.sysconf("SC_CLK_TCK")
        except OSError:
            pass
    return total


def row(delivery):
    return re.search(rb'<tr data-delivery="%s".*?>' % delivery.encode(), get("/jobs/HW/receive?handler=List")).group(0)


def deliver(data, source, party, token):
    begun = json.loads(post(f"/jobs/HW/receive?handler=Begin&party={party}&source={source}&fileName={source}.ifc&length={len(data)}", token=token))
    started = time.perf_counter()
    for number in range(0, (len(data) + PIECE - 1) // PIECE):
        post(f"/jobs/HW/receive?handler=Piece&id={begun['id']}&number={number}", data[number * PIECE:(number + 1) * PIECE], token)
    sent = time.perf_counter()
    before = [seconds_of("-P", server), seconds_of("-x", "postgres")]
    post(f"/jobs/HW/receive?handler=Complete&id={begun['id']}", token=token)
    states = []
    while True:
        state = re.search(rb'data-state="(\w+)"', row(begun["id"])).group(1).decode()
        if not states or states[-1][0] != state:
            states.append((state, time.perf_counter() - sent))
        if state in ("Ready", "Refused", "Held"):
            break
        time.sleep(0.2)
    return sent - started, time.perf_counter() - sent, states, seconds_of("-P", server) - before[0], seconds_of("-x", "postgres") - before[1]


sign_in()
while re.search(rb'data-state="(Received|Indexing|Reading|Shaping|Storing)"', get("/jobs/HW/receive?handler=List")):
    time.sleep(0.5)
token = token_of("/jobs/HW/receive")
party = re.search(rb'<option value="([0-9a-f-]+)">STR ', get("/jobs/HW/receive")).group(1).decode()
data = open(model, "rb").read()
threading.Thread(target=watch_memory, daemon=True).start()
times = []
for n in range(int(os.environ.get("ROUNDS", "2"))):
    # Another file each time, so that it is read again.
    sent, ready, states, work, database = deliver(data + b"\n" * n, f"Tower{n}", party, token)
    times.append(ready)
    print(f"round {n + 1}: sent in {sent:.1f} s, {states[-1][0]} {ready:.2f} s after the last byte, {work:.1f} s of processors and {database:.1f} s of the database's; " + ", ".join(f"{s} at {t:.1f}" for s, t in states), flush=True)
engine = json.loads(subprocess.run([*bench.split(), "measure", "mesh2", model, "3"], capture_output=True, text=True).stdout.strip().splitlines()[-1])
seconds = engine["median"]
print(f"engine, all meshes on two threads: {seconds:.2f} s; ready : engine {min(times) / seconds:.2f} (at most 1.5)")
print(f"peak memory of the process that read it: {max(peaks.values()):.0f} MB (at most 500)")


def picture():
    """The combined view in Chromium with software rendering: when something is seen, when all is, what was asked for, what a frame costs."""
    port = 9517
    driver = subprocess.Popen(["chromedriver", f"--port={port}"], stdout=subprocess.DEVNULL)
    try:
        time.sleep(1)

        def call(method, path, body=None):
            request = urllib.request.Request(f"http://127.0.0.1:{port}{path}", method=method, data=None if body is None else json.dumps(body).encode(), headers={"Content-Type": "application/json"})
            try:
                with urllib.request.urlopen(request, timeout=200) as answer:
                    return json.loads(answer.read())["value"]
            except urllib.error.HTTPError as error:
                sys.exit(f"chromedriver: {error.read().decode()[:400]}")

        arguments = ["--headless=new", "--no-sandbox", "--disable-dev-shm-usage", "--enable-unsafe-swiftshader", "--window-size=1280,800", "--no-first-run", "--disable-background-networking"]
        session = "/session/" + call("POST", "/session", {"capabilities": {"alwaysMatch": {"goog:chromeOptions": {"binary": "/usr/bin/chromium", "args": arguments}}}})["sessionId"]
        run = lambda code: call("POST", session + "/execute/sync", {"script": code, "args": []})
        call("POST", session + "/url", {"url": base + "/signin"})
        run("email.value='coordinator@heron.example'; password.value='heron-wharf-2026'; document.querySelector('main form').submit()")
        time.sleep(2)
        call("POST", session + "/url", {"url": base + "/jobs/HW/combine"})
        while not run("return document.querySelector('#view')?.dataset.ready === 'true'"):
            time.sleep(0.1)
        times = run("""
          const asked = performance.getEntriesByType('resource').filter(r => /handler=(Scene|Elements|Picture|Chunk)/.test(r.name));
          const marks = Object.fromEntries(performance.getEntriesByType('mark').map(m => [m.name, Math.round(m.startTime)]));
          return { requests: asked.length, bytes: asked.reduce((s, r) => s + r.encodedBodySize, 0), ...marks };""")
        print(f"combined view: first picture {times.get('picture-first', 0) / 1000:.1f} s (at most 1.5), whole {times.get('picture-whole', 0) / 1000:.1f} s (at most 4), {times['requests']} requests, {times['bytes'] / 1e6:.1f} MB")
        time.sleep(6)
        calls = run("return lintelView.drawCalls")
        triangles = run("return lintelView.building.renderer.info.render.triangles")
        pick = run("const t = performance.now(); lintelView.building.pick(640, 360); return performance.now() - t")
        moving = run("""
          const b = lintelView.building, gl = b.renderer.getContext(), times = [];
          for (let n = 0; n < 8; n++) {
            const t = performance.now();
            b.move ? b.move() : b.renderer.render(b.world, b.camera);
            gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
            times.push(performance.now() - t);
          }
          return times.sort((a, b) => a - b)[4];""")
        drawables = run("return lintelView.building.detail.drawables.length")
        memory = run("return performance.memory ? performance.memory.usedJSHeapSize / 1e6 : 0")
        print(f"  {drawables} drawables (at most 300), a frame while moving {moving:.0f} ms (at most 33), one pick {pick:.0f} ms (at most 50), heap {memory:.0f} MB")
        call("DELETE", session)
    finally:
        driver.terminate()


if os.path.exists("/usr/bin/chromium"):
    picture()
