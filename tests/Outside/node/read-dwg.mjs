// Reads a DWG file with libredwg-web and with libdxfrw-web and prints what they see as JSON: their errors, and libredwg's DXF of it to a file.
import { readFileSync, writeFileSync } from 'node:fs';
import { createModule as createRedwg, LibreDwg } from '@mlightcad/libredwg-web';

const [file, dxf] = process.argv.slice(2);
const bytes = readFileSync(file);
const quiet = { print: () => {}, printErr: () => {} };
const module = await createRedwg(process.env.LOUD ? {} : quiet);
const redwg = LibreDwg.createByWasmInstance(module);
const view = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length);
const name = 'in.dwg';
module.FS.writeFile(name, new Uint8Array(view));
const read = module.dwg_read_file(name);
const answer = { error: read.error };
if (dxf) {
  const out = redwg.dwg_write_dxf(view);
  answer.dxf = out ? out.length : 0;
  if (out) writeFileSync(dxf, out);
}
console.log(JSON.stringify(answer));
