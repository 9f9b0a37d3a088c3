// Reads a DWG file with two readers and prints what they see as JSON.
//   node read-dwg.mjs FILE.dwg OUT.dxf
// libredwg-web: its error, and its DXF of the drawing in OUT.dxf. libdxfrw-web: whether it read all, layers, and values of model space.
import { readFileSync, writeFileSync } from 'node:fs';
import { createModule as createRedwg, LibreDwg } from '@mlightcad/libredwg-web';
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
console.log = log;
if (written) writeFileSync(dxf, written);

const lib = await createDxfrw(quiet);
const database = new lib.DRW_Database(), handler = new lib.DRW_FileHandler();
handler.database = database;
const reader = new lib.DRW_DwgR(new Uint8Array(bytes));
const read = reader.read(handler, false);
const list = (vector) => Array.from({ length: vector.size() }, (_, i) => vector.get(i));
const kinds = Object.fromEntries(Object.entries(lib.DRW_ETYPE).filter(([, v]) => v?.value !== undefined).map(([k, v]) => [v.value, k]));
const point = (p) => (p ? [p.x, p.y, p.z] : null);
const entities = list(database.mBlock.entities).map((e) => ({ type: kinds[e.eType.value], handle: e.handle, layer: e.layer, base: point(e.basePoint), second: point(e.secPoint), radius: e.radius ?? null, text: e.text ?? null }));
console.log(JSON.stringify({ error, dxf: written?.length ?? 0, read, code: reader.getError().value, layers: list(database.layers).map((l) => l.name), entities }));
