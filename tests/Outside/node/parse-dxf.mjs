// Reads an ASCII DXF file with dxf-parser and prints kinds of entities with counts, layers and lines as JSON.
import { readFileSync } from 'node:fs';
import DxfParser from 'dxf-parser';

const drawing = new DxfParser().parseSync(readFileSync(process.argv[2], 'utf8'));
const counts = {};
for (const e of drawing.entities) counts[e.type] = (counts[e.type] ?? 0) + 1;
console.log(
  JSON.stringify({
    counts,
    layers: Object.keys(drawing.tables.layer.layers),
    lines: drawing.entities
      .filter((e) => e.type === 'LINE')
      .map((e) => ({
        handle: e.handle,
        layer: e.layer,
        from: [e.vertices[0].x, e.vertices[0].y, e.vertices[0].z],
        to: [e.vertices[1].x, e.vertices[1].y, e.vertices[1].z],
      })),
  }),
);
