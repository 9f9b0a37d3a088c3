"""Imports a topic file of 10 000 topics and 50 000 comments into a running server, then times what a coordinator waits for. The file is made
here, not by the program that reads it."""
import http.cookiejar
import re
import sys
import time
import urllib.parse
import urllib.request
import uuid
import zipfile

base, path, server = sys.argv[1:4]
TOPICS, COMMENTS, ROUNDS = 10_000, 5, 15
LIMIT_PAGE, LIMIT_IMPORT = 200, 30
jar = http.cookiejar.CookieJar()
web = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))


def get(address):
    with web.open(base + address) as answer:
        return answer.read()


def token_of(address):
    return re.search(rb'name="__RequestVerificationToken" type="hidden" value="([^"]+)"', get(address)).group(1).decode()


def form(address, fields):
    with web.open(base + address, data=urllib.parse.urlencode(fields).encode()) as answer:
        return answer.geturl(), answer.read()


def upload(address, name, field, content, token):
    mark = "mark" + uuid.uuid4().hex
    body = b"".join([
        f'--{mark}\r\nContent-Disposition: form-data; name="__RequestVerificationToken"\r\n\r\n{token}\r\n'.encode(),
        f'--{mark}\r\nContent-Disposition: form-data; name="{field}"; filename="{name}"\r\nContent-Type: application/zip\r\n\r\n'.encode(),
        content, f"\r\n--{mark}--\r\n".encode(),
    ])
    request = urllib.request.Request(base + address, data=body, headers={"Content-Type": f"multipart/form-data; boundary={mark}"})
    with web.open(request) as answer:
        return answer.geturl(), answer.read()


def guid(n):
    return str(uuid.uuid5(uuid.NAMESPACE_URL, f"https://heron.example/{n}"))


def make():
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("bcf.version", '<?xml version="1.0"?><Version VersionId="3.0"/>')
        file.writestr("project.bcfp", f'<?xml version="1.0"?><ProjectInfo><Project ProjectId="{guid("project")}"><Name>Many</Name></Project></ProjectInfo>')
        file.writestr("extensions.xml", '<?xml version="1.0"?><Extensions/>')
        for n in range(TOPICS):
            own, view = guid(n), guid(f"view {n}")
            comments = "".join(
                f'<Comment Guid="{guid(f"{n} {c}")}"><Date>2026-11-{1 + c:02}T10:00:00Z</Date><Author>person{c}@example.com</Author><Comment>Comment {c} on topic {n}: the beam, the duct, the opening.</Comment><Viewpoint Guid="{view}"/></Comment>'
                for c in range(COMMENTS)
            )
            party = ("ARC", "STR", "SRV", "")[n % 4]
            file.writestr(f"{own}/markup.bcf", f'<?xml version="1.0"?><Markup><Topic Guid="{own}" TopicType="Question" TopicStatus="{"Closed" if n % 10 == 0 else "Open"}"><Title>Topic {n} of a large job</Title><CreationDate>2026-10-{1 + n % 28:02}T08:00:00Z</CreationDate><CreationAuthor>person@example.com</CreationAuthor><AssignedTo>{party}</AssignedTo><Description>What is asked about place {n}.</Description><Comments>{comments}</Comments><Viewpoints><ViewPoint Guid="{view}"><Viewpoint>{view}.bcfv</Viewpoint></ViewPoint></Viewpoints></Topic></Markup>')
            file.writestr(f"{own}/{view}.bcfv", f'<?xml version="1.0"?><VisualizationInfo Guid="{view}"><Components><Selection><Component IfcGuid="{n:022}"/></Selection><Visibility DefaultVisibility="true"/></Components><PerspectiveCamera><CameraViewPoint><X>{n % 50}</X><Y>2</Y><Z>3</Z></CameraViewPoint><CameraDirection><X>0</X><Y>1</Y><Z>0</Z></CameraDirection><CameraUpVector><X>0</X><Y>0</Y><Z>1</Z></CameraUpVector><FieldOfView>60</FieldOfView><AspectRatio>1.6</AspectRatio></PerspectiveCamera></VisualizationInfo>')
    with open(path, "rb") as file:
        return file.read()


def memory():
    with open(f"/proc/{server}/status") as status:
        return int(re.search(r"VmHWM:\s+(\d+) kB", status.read()).group(1)) / 1024


def timed(address):
    get(address)
    times = []
    for _ in range(ROUNDS):
        started = time.perf_counter()
        size = len(get(address))
        times.append(time.perf_counter() - started)
    return sorted(times)[len(times) // 2] * 1000, size


form("/signin", {"Email": "coordinator@heron.example", "Password": "heron-wharf-2026", "__RequestVerificationToken": token_of("/signin")})
content = make()
print(f"{TOPICS:,} topics, {TOPICS * COMMENTS:,} comments, {len(content) / 1e6:.1f} MB\n")
before = memory()
started = time.perf_counter()
where, page = upload("/jobs/HW/resolve?handler=Import", "many.bcf", "file", content, token_of("/jobs/HW/resolve"))
looked = time.perf_counter() - started
token = re.search(rb'name="__RequestVerificationToken" type="hidden" value="([^"]+)"', page).group(1).decode()
started = time.perf_counter()
_, page = form(where.replace(base, ""), {"__RequestVerificationToken": token, "Frame": ""})
imported = time.perf_counter() - started
said = re.search(rb'role="status">([^<]*Imported[^<]*)<', page)
print(f"upload and preview {looked:.1f} s; import {imported:.1f} s (limit {LIMIT_IMPORT}: {'ok' if imported <= LIMIT_IMPORT else 'TOO SLOW'}); server's peak {memory():.0f} MB, {before:.0f} MB before; {said.group(1).decode() if said else 'no sentence'}\n")
print("| page | median, ms | limit | kB |\n| --- | ---: | --- | ---: |")
project = re.search(rb'"project_id":"([^"]+)"', get("/bcf/3.0/projects")).group(1).decode()
number = re.search(rb"/topics/(\d+)", get("/jobs/HW/resolve")).group(1).decode()
for name, address in {
    "matrix": "/jobs/HW/resolve", "list": "/jobs/HW/resolve?as=list", "list by due date": "/jobs/HW/resolve?as=list&sort=due",
    "search": "/jobs/HW/resolve?as=list&text=" + urllib.parse.quote("topic 4711"), "one topic": f"/jobs/HW/topics/{number}",
    "figures": "/jobs/HW/topics/figures", "API, 100 topics": f"/bcf/3.0/projects/{project}/topics?$top=100",
    "API, filtered": f"/bcf/3.0/projects/{project}/topics?$top=100&$filter=" + urllib.parse.quote("assigned_to eq 'STR' and topic_status eq 'Open'"),
}.items():
    median, size = timed(address)
    print(f"| {name} | {median:.0f} | {'≤ 200 ok' if median <= LIMIT_PAGE else '> 200'} | {size / 1000:.0f} |")
