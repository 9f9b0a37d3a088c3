// Reads topic files with bcf-js: a line of JSON a file. Arguments: the version, then the files.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);
const [version, ...files] = process.argv.slice(2);
const { BcfReader } = require(`@parametricos/bcf-js/dist/${version}`);
for (const file of files) {
  const reader = new BcfReader();
  const bytes = readFileSync(file);
  await reader.read(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
  const read = {
    project: { id: reader.project.project_id, name: reader.project.name },
    words: reader.project.extension_schema,
    topics: reader.markups.map((m) => ({ header: m.header, topic: m.topic, viewpoints: m.viewpoints })),
  };
  console.log(JSON.stringify(read, (key, value) => (key === 'reader' ? undefined : value)));
}
