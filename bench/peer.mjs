// The peer: web-ifc under Node on the same file. Prints what it took as JSON.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
const require = createRequire(new URL('../tests/Outside/node/package.json', import.meta.url));
const { IfcAPI } = require('web-ifc');

const [, , what, path, times] = process.argv;
const bytes = readFileSync(path);
const api = new IfcAPI();
await api.Init();
const seconds = [];
let counted = 0, first = 0;
const begun = performance.now();
// Warm-up as ours has: three seconds, at least one run.
for (let i = -1; i < Number(times);) {
  const start = performance.now();
  const model = api.OpenModel(bytes, { COORDINATE_TO_ORIGIN: false, CIRCLE_SEGMENTS: 48 });
  if (what === 'mesh') {
    counted = 0;
    api.StreamAllMeshes(model, (mesh) => {
      for (let g = 0; g < mesh.geometries.size(); g++) {
        const geometry = api.GetGeometry(model, mesh.geometries.get(g).geometryExpressID);
        counted += geometry.GetIndexDataSize() / 3;
        geometry.delete();
      }
    });
  }
  const took = (performance.now() - start) / 1000;
  if (i >= 0) seconds.push(took);
  else first ||= took;
  if (i >= 0 || performance.now() - begun >= 3000) i++;
  api.CloseModel(model);
}
seconds.sort((a, b) => a - b);
console.log(JSON.stringify({ what: `peer ${what}`, median: seconds[seconds.length >> 1], first, seconds, counted, peakMb: process.resourceUsage().maxRSS / 1024 }));
