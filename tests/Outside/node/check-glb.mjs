// Validates a GLB and prints the report as JSON.
//   node check-glb.mjs FILE.glb
import { readFileSync } from 'node:fs';
import validator from 'gltf-validator';

const report = await validator.validateBytes(new Uint8Array(readFileSync(process.argv[2])));
console.log(
  JSON.stringify({
    errors: report.issues.numErrors,
    warnings: report.issues.numWarnings,
    messages: report.issues.messages.slice(0, 10),
    triangles: report.info.totalTriangleCount,
    materials: report.info.materialCount,
    draws: report.info.drawCallCount,
  }),
);
