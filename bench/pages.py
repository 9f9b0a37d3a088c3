"""Delivers a model of 50 000 elements to a running server, then times pages and fragments and looks at the combined view in Chromium."""
import json
import os
import re
import subprocess
import sys
import time
import urllib.request

from session import PIECE, Session

base, model = sys.argv[1:3]
ROUNDS = 40
session = Session(base)
get, post, token_of, sign_in = session.get, session.post, session.token_of, session.sign_in


def deliver():
    token = token_of("/jobs/HW/receive")
    party = re.search(rb'<option value="([0-9a-f-]+)">STR ', get("/jobs/HW/receive")).group(1).decode()
    data = open(model, "rb").read()
    started = time.perf_counter()
    begun = json.loads(post(f"/jobs/HW/receive?handler=Begin&party={party}&source=Tower&fileName=tower.ifc&length={len(data)}", token=token))
    for number in range(0, (len(data) + PIECE - 1) // PIECE):
        post(f"/jobs/HW/receive?handler=Piece&id={begun['id']}&number={number}", data[number * PIECE:(number + 1) * PIECE], token)
    post(f"/jobs/HW/receive?handler=Complete&id={begun['id']}", token=token)
    while b'data-state="Ready"' not in re.search(rb'<tr data-delivery="%s".*?>' % begun["id"].encode(), get("/jobs/HW/receive?handler=List")).group(0):
        time.sleep(0.2)
    print(f"\nIntake of {len(data) / 1e6:.0f} MB with 50 000 elements, from first byte to ready: {time.perf_counter() - started:.1f} s.\n")
    return begun["id"]


def timed(path):
    get(path)
    times = []
    for _ in range(ROUNDS):
        started = time.perf_counter()
        size = len(get(path))
        times.append(time.perf_counter() - started)
    times.sort()
    return times[len(times) // 2] * 1000, times[int(len(times) * 0.95)] * 1000, size


def pages(delivery):
    token = token_of("/jobs/HW/handover")
    post("/jobs/HW/handover?handler=New", token=token)
    sign = timed("/signin")
    print("| page or fragment | median, ms | 95th, ms | against sign-in | kB |")
    print("| --- | ---: | ---: | ---: | ---: |")
    for name, path in {
        "sign-in": "/signin", "jobs": "/", "job sheet": "/jobs/HW", "receive": "/jobs/HW/receive", "receive, list": "/jobs/HW/receive?handler=List",
        "intake report": f"/jobs/HW/deliveries/{delivery}", "combine": "/jobs/HW/combine", "combine, scene": "/jobs/HW/combine?handler=Scene",
        "combine, elements": "/jobs/HW/combine?handler=Elements&source=3", "combine, facts": f"/jobs/HW/combine?handler=Facts&id={delivery}&number=31000",
        "orders": "/jobs/HW/handover", "order with preview": "/jobs/HW/handover/1",
    }.items():
        median, high, size = timed(path)
        print(f"| {name} | {median:.1f} | {high:.1f} | {median / sign[0]:.1f} × | {size / 1000:.0f} |")
    scene = json.loads(get("/jobs/HW/combine?handler=Scene"))
    triangles = sum(c["triangles"] for c in scene["chunks"])
    sent = sum(len(get(f"/jobs/HW/combine?handler=Chunk&hash={h}")) for h in {c["hash"] for c in scene["chunks"]})
    print(f"\nCombined view: {triangles:,} triangles in {len(scene['chunks'])} chunks, {sent / 1e6:.1f} MB sent, {sent / triangles:.2f} bytes a triangle.")


def view():
    port = 9515
    driver = subprocess.Popen(["chromedriver", f"--port={port}"], stdout=subprocess.DEVNULL)
    try:
        time.sleep(1)

        def call(method, path, body=None):
            request = urllib.request.Request(f"http://127.0.0.1:{port}{path}", method=method, data=None if body is None else json.dumps(body).encode(), headers={"Content-Type": "application/json"})
            with urllib.request.urlopen(request, timeout=200) as answer:
                return json.loads(answer.read())["value"]

        arguments = ["--headless=new", "--no-sandbox", "--disable-dev-shm-usage", "--enable-unsafe-swiftshader", "--window-size=1280,800", "--no-first-run", "--disable-background-networking"]
        session = "/session/" + call("POST", "/session", {"capabilities": {"alwaysMatch": {"goog:chromeOptions": {"binary": "/usr/bin/chromium", "args": arguments}}}})["sessionId"]
        run = lambda code: call("POST", session + "/execute/sync", {"script": code, "args": []})
        call("POST", session + "/url", {"url": base + "/signin"})
        run("email.value='coordinator@heron.example'; password.value='heron-wharf-2026'; document.querySelector('main form').submit()")
        time.sleep(2)
        call("POST", session + "/url", {"url": base + "/jobs/HW/combine"})
        while not run("return document.querySelector('#view')?.dataset.ready === 'true'"):
            time.sleep(0.3)
        time.sleep(3)
        calls = run("return lintelView.drawCalls")
        pick = run("const t = performance.now(); lintelView.building.pick(640, 360); return performance.now() - t")
        frame = run("const b = lintelView.building, t = performance.now(); b.renderer.render(b.world, b.camera); b.renderer.getContext().finish(); return performance.now() - t")
        print(f"In Chromium with software rendering: {calls} draw calls a frame, one frame {frame:.0f} ms, one pick {pick:.0f} ms.")
        call("DELETE", session)
    finally:
        driver.terminate()


sign_in()
delivered = deliver()
pages(delivered)
if os.path.exists("/usr/bin/chromium"):
    view()
