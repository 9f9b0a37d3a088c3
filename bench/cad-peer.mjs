// Peers of the drawing codecs on the same file. node cad-peer.mjs redwg|dxfrw|dxf-parser FILE TIMES
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { pathToFileURL } from 'node:url';

const require = createRequire(new URL('../tests/Outside/node/package.json', import.meta.url));
const load = (path) => import(pathToFileURL(path.startsWith('/') ? path : require.resolve(path)));
const [, , what, path, times] = process.argv;
const bytes = readFileSync(path), quiet = { print: () => {}, printErr: () => {} };
let once;
if (what === 'redwg') {
  const { createModule } = await load(require.resolve('@mlightcad/libredwg-web').replace('.umd.cjs', '.js'));
  const module = await createModule(quiet);
  module.FS.writeFile('in.dwg', new Uint8Array(bytes));
  once = () => module.dwg_free(module.dwg_read_file('in.dwg').data);
} else if (what === 'dxfrw') {
  const lib = await (await load(new URL('../tests/Outside/node/node_modules/@mlightcad/libdxfrw-web/dist/libdxfrw.js', import.meta.url).pathname)).default(quiet);
  once = () => {
    const handler = new lib.DRW_FileHandler(), database = new lib.DRW_Database();
    handler.database = database;
    const reader = new lib.DRW_DwgR(new Uint8Array(bytes));
    reader.read(handler, false);
    reader.delete(); handler.delete(); database.delete();
  };
} else {
  const Parser = require('dxf-parser').default ?? require('dxf-parser');
  const text = bytes.toString('utf8');
  once = () => new Parser().parseSync(text);
}

once();
const seconds = [];
for (let i = 0; i < Number(times); i++) {
  const start = performance.now();
  once();
  seconds.push((performance.now() - start) / 1000);
}
seconds.sort((a, b) => a - b);
console.log(JSON.stringify({ what: `peer ${what}`, median: seconds[seconds.length >> 1] }));
