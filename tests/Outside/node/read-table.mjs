// Reads the rows of a table and prints them as JSON: read-excel-file for XLSX, papaparse for CSV.
//   node read-table.mjs FILE
import { readFileSync } from 'node:fs';
import Papa from 'papaparse';
import readXlsx from 'read-excel-file/node';

const file = process.argv[2];
if (file.endsWith('.xlsx')) {
  const answer = await readXlsx(readFileSync(file));
  console.log(JSON.stringify(Array.isArray(answer[0]) ? answer : answer[0].data));
} else
  console.log(
    JSON.stringify(Papa.parse(readFileSync(file, 'utf8').replace(/^\uFEFF/, ''), { skipEmptyLines: true }).data),
  );
