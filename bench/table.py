"""Turns the measurements of one file into a Markdown table of ratios against the bars of docs/performance.md."""
import json
import os
import statistics
import sys

size, path, log = sys.argv[1:4]


def rounds(log):
    """One row a thing: the median of its rounds, the highest of their peaks, the first of the first."""
    found = {}
    for row in map(json.loads, open(log)):
        found.setdefault(row["what"], []).append(row)
    return {what: all[0] | {"median": statistics.median(r["median"] for r in all), "peakMb": max(r["peakMb"] for r in all)} for what, all in found.items()}


rows = rounds(log)
peer_open, peer_mesh = rows["peer open"], rows["peer mesh"]
print(f"\n### {size} MB ({os.path.getsize(path) / 1e6:.1f} MB, {rows['index']['counted']:,} instances)\n")
print("| what | ours, s | ours cold, s | peer or scan, s | ratio | bar | peak, MB | peer's peak, MB |")
print("| --- | ---: | ---: | ---: | ---: | --- | ---: | ---: |")


def line(name, ours, other, bar, least=None):
    ratio = other["median"] / ours["median"]
    verdict = "" if least is None else (" ✓" if ratio >= least else " ✗")
    print(f"| {name} | {ours['median']:.3f} | {ours['first']:.2f} | {other['median']:.3f} | {ratio:.2f} × | {bar}{verdict} | {ours['peakMb']:.0f} | {other['peakMb']:.0f} |")


line("index against the peer's open", rows["index"], peer_open, "≥ 20 ×", 20)
line("open with structure and all properties against the peer's open", rows["open"], peer_open, "≥ 5 ×", 5)
line("open and all meshes, one thread", rows["mesh1"], peer_mesh, "≥ 1 ×", 1)
line("open and all meshes, two threads", rows["mesh2"], peer_mesh, "≥ 2 ×", 2)
line("index against a plain byte scan", rows["index"], rows["scan"], "")
line("subset of one storey of ten, opening included, against reading and writing the file", rows["subset"], rows["copy"], "≥ 0.5 ×", 0.5)
print(f"\nTriangles: ours {rows['mesh2']['counted']:,}, peer {int(peer_mesh['counted']):,}.")
