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
let counted = 0;
for (let i = 0; i < Number(times); i++) {
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
  seconds.push((performance.now() - start) / 1000);
  api.CloseModel(model);
}
seconds.sort((a, b) => a - b);
console.log(JSON.stringify({ what: `peer ${what}`, median: seconds[seconds.length >> 1], seconds, counted, peakMb: process.resourceUsage().maxRSS / 1024 }));
