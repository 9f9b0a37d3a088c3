// Reads a DWG file with two readers and prints what they see as JSON.
//   node read-dwg.mjs FILE.dwg OUT.dxf [first]
// With 'first' the second reader, which takes minutes over several layouts with references, is not asked.
// libredwg-web: its error, its DXF of the drawing in OUT.dxf, its own dimension styles and hatches. libdxfrw-web: whether it read all, layers, and values of model space.
import { readFileSync, writeFileSync } from 'node:fs';
import { createModule as createRedwg, Dwg_File_Type, LibreDwg } from '@mlightcad/libredwg-web';
import createDxfrw from '@mlightcad/libdxfrw-web/dist/libdxfrw.js';

const [file, dxf] = process.argv.slice(2);
const bytes = readFileSync(file);
const quiet = { print: () => {}, printErr: () => {} };

const module = await createRedwg(quiet);
const redwg = LibreDwg.createByWasmInstance(module);
module.FS.writeFile('in.dwg', new Uint8Array(bytes));
const { error } = module.dwg_read_file('in.dwg');
const log = console.log;
console.log = () => {};
const written = redwg.dwg_write_dxf(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
const answers = redwg.convert(
  redwg.dwg_read_data(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length), Dwg_File_Type.DWG),
);
console.log = log;
if (written) writeFileSync(dxf, written);
if (process.argv[4] === 'first') {
  console.log(JSON.stringify({ error }));
  process.exit(0);
}

const lib = await createDxfrw(quiet);
const database = new lib.DRW_Database(),
  handler = new lib.DRW_FileHandler();
handler.database = database;
const reader = new lib.DRW_DwgR(new Uint8Array(bytes));
const read = reader.read(handler, false);
const list = (vector) => Array.from({ length: vector.size() }, (_, i) => vector.get(i));
const kinds = Object.fromEntries(
  Object.entries(lib.DRW_ETYPE)
    .filter(([, v]) => v?.value !== undefined)
    .map(([k, v]) => [v.value, k]),
);
const point = (p) => (p ? [p.x, p.y, p.z] : null);
const entities = list(database.mBlock.entities).map((e) => ({
  type: kinds[e.eType.value],
  handle: e.handle,
  layer: e.layer,
  base: point(e.basePoint),
  second: point(e.secPoint),
  radius: e.radius ?? null,
  text: e.text ?? null,
}));
const patterns = list(database.mBlock.entities)
  .filter((e) => e.getLoopList)
  .map((e) => ({
    handle: e.handle,
    patternName: e.name,
    solidFill: e.solid,
    hatchStyle: e.hatchStyle,
    patternType: e.patternType,
    patternAngle: e.angle,
    patternScale: e.scale,
    loops: list(e.getLoopList()).map((l) => l.type),
    definitionLines: list(e.definitionLines).map((l) => ({
      angle: l.angle,
      base: { x: l.base.x, y: l.base.y },
      offset: { x: l.offset.x, y: l.offset.y },
      dashLengths: list(l.dashPattern),
    })),
  }));
console.log(
  JSON.stringify(
    {
      error,
      dxf: written?.length ?? 0,
      read,
      code: reader.getError().value,
      layers: list(database.layers).map((l) => l.name),
      entities,
      styles: answers.tables.DIMSTYLE.entries,
      hatches: answers.entities.filter((e) => e.type === 'HATCH'),
      patterns,
    },
    (_, value) => (typeof value === 'bigint' ? Number(value) : value),
  ),
);
