"""Drives a running server as fifty people would, and counts what comes of it. Arguments: address, the server's process, a model, minutes."""
import collections
import http.cookiejar
import os
import random
import re
import signal
import sys
import threading
import time
import urllib.error
import urllib.parse
import urllib.request

address, server, model, minutes = sys.argv[1], int(sys.argv[2]), sys.argv[3], float(sys.argv[4])
PIECE, PEOPLE, UPLOADERS = 4 << 20, 50, 10
PAGES = ['/', '/jobs/HW', '/jobs/HW/receive', '/jobs/HW/receive?handler=List', '/jobs/HW/combine', '/jobs/HW/combine?handler=Scene', '/jobs/HW/handover']
content = open(model, 'rb').read()
until = time.time() + 60 * minutes
times, errors, lock = collections.defaultdict(list), collections.Counter(), threading.Lock()
sent, peak, kills = [], [0], [0]  # what was acknowledged; kB; workers


class Person:
    """A browser that is signed in."""

    def __init__(self):
        self.open = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar())).open
        self.token = ''
        self.ask('/signin', 'sign-in page')
        self.ask('/signin', 'sign-in', urllib.parse.urlencode(
            {'Email': 'coordinator@heron.example', 'Password': 'heron-wharf-2026', '__RequestVerificationToken': self.token}).encode())

    def ask(self, path, what, body=None, kind='application/x-www-form-urlencoded'):
        """Asks once; notes the time, or the error."""
        request = urllib.request.Request(address + path, data=body, headers={'RequestVerificationToken': self.token})
        if body is not None:
            request.add_header('Content-Type', kind)
        start = time.time()
        try:
            with self.open(request, timeout=60) as answer:
                text = answer.read()
        except (urllib.error.URLError, OSError) as error:
            with lock:
                errors[f'{what}: {getattr(error, "code", error)}'] += 1
            return None
        with lock:
            times[what].append(time.time() - start)
        found = re.search(rb'name="__RequestVerificationToken" type="hidden" value="([^"]+)"', text)
        if found:
            self.token = found.group(1).decode()
        return text


def look():
    """Looks at pages, with a pause between them as a person makes."""
    person = Person()
    while time.time() < until:
        path = random.choice(PAGES)
        person.ask(path, 'GET ' + path)
        time.sleep(random.uniform(0.5, 3))


def upload(number):
    """Sends one file after the other."""
    person = Person()
    party = re.search(rb'<option value="([0-9a-f-]+)">STR ', person.ask('/jobs/HW/receive', 'GET /jobs/HW/receive')).group(1).decode()
    count = 0
    while time.time() < until:
        count += 1
        bytes_ = content.replace(b'ENDSEC;\nEND-ISO', b'/* %d %d */ENDSEC;\nEND-ISO' % (number, count))
        words = urllib.parse.urlencode({'party': party, 'source': f'Load {number}', 'fileName': f'{number}-{count}.ifc', 'length': len(bytes_)})
        begun = person.ask(f'/jobs/HW/receive?handler=Begin&{words}', 'begin', b'')
        if begun is None:
            continue
        id_ = re.search(rb'[0-9a-f-]{36}', begun).group(0).decode()
        whole = all(person.ask(f'/jobs/HW/receive?handler=Piece&id={id_}&number={n}', 'piece', bytes_[at:at + PIECE], 'application/octet-stream') is not None
                    for n, at in enumerate(range(0, len(bytes_), PIECE)))
        if whole and person.ask(f'/jobs/HW/receive?handler=Complete&id={id_}', 'complete', b'') is not None:
            with lock:
                sent.append(id_)
        time.sleep(random.uniform(5, 15))


def runners():
    """The processes that do the server's work."""
    for folder in filter(str.isdigit, os.listdir('/proc')):
        try:
            parent = open(f'/proc/{folder}/stat').read().rsplit(')', 1)[1].split()[1]
            if int(parent) == server and b'runner' in open(f'/proc/{folder}/cmdline', 'rb').read():
                yield int(folder)
        except OSError:
            pass


def watch():
    """Notes the memory of server and workers, and kills a worker each minute."""
    last = time.time()
    while time.time() < until:
        total = 0
        for process in [server, *runners()]:
            try:
                total += int(re.search(r'VmRSS:\s+(\d+)', open(f'/proc/{process}/status').read()).group(1))
            except (OSError, AttributeError):
                pass
        peak[0] = max(peak[0], total)
        if time.time() - last > 60:
            last = time.time()
            for process in list(runners())[:1]:
                os.kill(process, signal.SIGKILL)
                kills[0] += 1
        time.sleep(1)


threads = [threading.Thread(target=look) for _ in range(PEOPLE - UPLOADERS)] + [threading.Thread(target=upload, args=(n,)) for n in range(UPLOADERS)]
threads.append(threading.Thread(target=watch))
for thread in threads:
    thread.start()
for thread in threads:
    thread.join()
person = Person()
for _ in range(900):
    rows = person.ask('/jobs/HW/receive?handler=List', 'list at the end')
    if rows and not re.search(rb'data-state="(Received|Indexing|Reading|Shaping|Storing)"', rows):
        break
    time.sleep(1)
print(f'{minutes:g} minutes, {PEOPLE} people, {UPLOADERS} of them sending {len(content) / 1e6:.1f} MB again and again; {kills[0]} workers killed; '
      f'{len(sent)} files sent; '
      f'{sum(map(len, times.values()))} answers, {sum(errors.values())} errors; memory of server and workers at most {peak[0] / 1024:.0f} MB\n')
print('| request | answers | median, ms | 95th, ms |\n| --- | ---: | ---: | ---: |')
for what, all_ in sorted(times.items()):
    ordered = sorted(all_)
    print(f'| {what} | {len(ordered)} | {1000 * ordered[len(ordered) // 2]:.0f} | {1000 * ordered[int(len(ordered) * 0.95)]:.0f} |')
for what, count in errors.items():
    print(f'error: {what}: {count}')
