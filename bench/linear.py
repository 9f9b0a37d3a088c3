"""Tells what an instance costs at each size: flat where nothing is slower than linear."""
import json
import statistics
import sys

sizes = sys.argv[1:]
print("\n### Cost an instance, ns\n")
print("| what | " + " | ".join(f"{size} MB" for size in sizes) + " |")
print("| --- |" + " ---: |" * len(sizes))
rows = {size: [json.loads(line) for line in open(f"bench/out/{size}.jsonl")] for size in sizes}
for what in ["index", "open", "mesh1", "mesh2", "subset", "peer open", "peer mesh"]:
    costs = []
    for size in sizes:
        instances = next(row["counted"] for row in rows[size] if row["what"] == "index")
        costs.append(statistics.median(row["median"] for row in rows[size] if row["what"] == what) / instances * 1e9)
    print(f"| {what} | " + " | ".join(f"{cost:,.0f}" for cost in costs) + " |")
