// The grid of elements by properties: cells are edited here, checked and saved by the server.
import { byId } from './page.js';

/**
 * A change of a cell: what it held, and what it holds then; null where it held nothing of ours.
 * @typedef {{ cell: HTMLTableCellElement, from: string | null, to: string | null }} Change
 */

const grid = /** @type {HTMLTableElement} */ (byId('grid'));
const says = byId('gridsays');
const save = /** @type {HTMLButtonElement} */ (byId('gridsave'));
const undo = /** @type {HTMLButtonElement} */ (byId('gridundo'));
const redo = /** @type {HTMLButtonElement} */ (byId('gridredo'));
const BLANK = '–';
const cells = /** @type {HTMLTableCellElement[]} */ ([...grid.querySelectorAll('td[role="gridcell"]')]);
/** What each cell showed when the page came. @type {Map<HTMLTableCellElement, string>} */
const shown = new Map(cells.map((c) => [c, c.innerHTML]));
/** The new values, not saved yet. @type {Map<HTMLTableCellElement, string>} */
const edits = new Map();
/** Cells with a value that the server refuses. @type {Map<HTMLTableCellElement, string>} */
const problems = new Map();
/** @type {Change[][]} */
const done = [],
  /** @type {Change[][]} */
  undone = [];
/** @type {HTMLTableCellElement | undefined} */
let anchor;

const token = /** @type {{RequestVerificationToken: string}} */ (
  JSON.parse(document.body.getAttribute('hx-headers') ?? '{}')
).RequestVerificationToken;

/** @param {HTMLTableCellElement} cell */
const held = (cell) => edits.get(cell) ?? cell.dataset.value ?? '';

/** @param {HTMLTableCellElement} cell */
function edit(cell) {
  const row = /** @type {HTMLTableRowElement} */ (cell.closest('tr'));
  return {
    source: row.dataset.source,
    element: row.dataset.element,
    set: cell.dataset.set,
    name: cell.dataset.name,
    value: edits.get(cell) ?? '',
    over: cell.dataset.over || null,
    was: { is: cell.dataset.is, text: cell.dataset.was ?? '', unit: cell.dataset.unit ?? '' },
  };
}

/** Shows a cell as it is now. @param {HTMLTableCellElement} cell */
function show(cell) {
  const value = edits.get(cell);
  cell.classList.toggle('edited', value !== undefined);
  cell.classList.toggle('wrong', problems.has(cell));
  cell.classList.toggle('missing', value === undefined && cell.dataset.state === 'missing');
  if (value === undefined) {
    cell.innerHTML = shown.get(cell) ?? '';
    return;
  }
  cell.replaceChildren();
  if (cell.dataset.is === 'value')
    cell.append(Object.assign(document.createElement('s'), { textContent: cell.dataset.was }), ' ');
  cell.append(Object.assign(document.createElement('b'), { className: 'ours', textContent: value || BLANK }));
  const problem = problems.get(cell);
  if (problem) cell.append(Object.assign(document.createElement('small'), { className: 'due', textContent: problem }));
}

function count() {
  save.disabled = edits.size === 0 || problems.size > 0;
  save.textContent =
    edits.size === 0 ? 'Save changes' : `Save ${edits.size} ${edits.size === 1 ? 'change' : 'changes'}`;
  undo.disabled = done.length === 0;
  redo.disabled = undone.length === 0;
  says.textContent =
    problems.size > 0
      ? `${problems.size} ${problems.size === 1 ? 'value is' : 'values are'} not allowed; correct them first.`
      : '';
}

/** Sends something to the server. @param {string} url @param {unknown} body */
const post = (url, body) =>
  fetch(url, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', RequestVerificationToken: token },
    body: JSON.stringify(body),
  });

/** Asks the server what is wrong with the values of some cells. @param {HTMLTableCellElement[]} changed */
async function check(changed) {
  const asked = changed.filter((c) => edits.has(c));
  for (const cell of changed) if (!edits.has(cell)) problems.delete(cell);
  if (asked.length > 0) {
    const answer = await post(grid.dataset.check ?? '', asked.map(edit));
    if (answer.ok) {
      const found = /** @type {(string | null)[]} */ (await answer.json());
      asked.forEach((cell, n) => {
        const problem = found[n];
        if (problem) problems.set(cell, problem);
        else problems.delete(cell);
      });
    } else says.textContent = 'The values could not be checked; try again.';
  }
  changed.forEach(show);
  count();
}

/** Sets cells. @param {Change[]} changes @param {boolean} [back] */
function apply(changes, back = false) {
  for (const { cell, from, to } of changes) {
    const value = back ? from : to;
    if (value === null || (value === (cell.dataset.value ?? '') && cell.dataset.state !== 'missing'))
      edits.delete(cell);
    else edits.set(cell, value);
    show(cell);
  }
  count();
  void check(changes.map((c) => c.cell));
}

/** Sets cells as one step that can be undone. @param {[HTMLTableCellElement, string][]} values */
function set(values) {
  const changes = values
    .filter(([cell, value]) => value !== held(cell) || (value === '' && cell.dataset.state === 'missing'))
    .map(([cell, to]) => ({ cell, from: edits.get(cell) ?? null, to }));
  if (changes.length === 0) return;
  done.push(changes);
  undone.length = 0;
  apply(changes);
}

/** @param {HTMLTableCellElement} cell @param {number} rows @param {number} columns */
function neighbour(cell, rows, columns) {
  const row = /** @type {HTMLTableRowElement} */ (cell.closest('tr'));
  const body = /** @type {HTMLTableSectionElement} */ (row.parentElement);
  const at = [...body.rows].indexOf(row) + rows;
  const next = body.rows[at]?.cells[cell.cellIndex + columns];
  return next instanceof HTMLTableCellElement && next.getAttribute('role') === 'gridcell' ? next : undefined;
}

/** @param {HTMLTableCellElement | undefined} cell @param {boolean} [extend] */
function focus(cell, extend = false) {
  if (!cell) return;
  if (!extend) anchor = cell;
  for (const other of cells) other.tabIndex = -1;
  cell.tabIndex = 0;
  cell.focus();
  const chosen = new Set(range());
  for (const other of cells) other.classList.toggle('chosen', chosen.has(other) && chosen.size > 1);
}

/** The cells between the anchor and the focus. @returns {HTMLTableCellElement[]} */
function range() {
  const here = document.activeElement;
  if (!(here instanceof HTMLTableCellElement)) return [];
  const from = anchor ?? here;
  /** @param {HTMLTableCellElement} c */
  const place = (c) => [/** @type {HTMLTableRowElement} */ (c.closest('tr')).rowIndex, c.cellIndex];
  const [r1, c1] = place(from),
    [r2, c2] = place(here);
  return cells.filter((c) => {
    const [r, k] = place(c);
    return r >= Math.min(r1, r2) && r <= Math.max(r1, r2) && k >= Math.min(c1, c2) && k <= Math.max(c1, c2);
  });
}

/** Opens a cell for typing. @param {HTMLTableCellElement} cell @param {string} [first] */
function open(cell, first) {
  if (cell.querySelector('.cell-input')) return;
  const input = document.createElement('input');
  input.className = 'cell-input';
  input.value = first ?? held(cell);
  input.setAttribute('aria-label', cell.getAttribute('aria-label') ?? '');
  const words = (cell.dataset.words ?? '').split('\n').filter(Boolean);
  if (words.length > 0) {
    const list = document.createElement('datalist');
    list.id = 'cell-words';
    for (const word of words) list.append(Object.assign(document.createElement('option'), { value: word }));
    cell.replaceChildren(input, list);
    input.setAttribute('list', 'cell-words');
  } else cell.replaceChildren(input);
  cell.classList.add('editing');
  input.focus();
  let closed = false;
  /** @param {boolean} keep */
  const close = (keep) => {
    if (closed) return;
    closed = true;
    cell.classList.remove('editing');
    const value = input.value;
    show(cell);
    if (keep && (value !== '' || held(cell) !== '')) set([[cell, value]]);
  };
  input.addEventListener('blur', () => close(true));
  input.addEventListener('keydown', (event) => {
    event.stopPropagation();
    if (event.key === 'Escape') close(false);
    else if (event.key === 'Enter' || event.key === 'Tab') close(true);
    else return;
    event.preventDefault();
    const step = event.shiftKey ? -1 : 1;
    focus(
      event.key === 'Escape'
        ? cell
        : ((event.key === 'Enter' ? neighbour(cell, step, 0) : neighbour(cell, 0, step)) ?? cell),
    );
  });
}

/** Undoes, or does again. @param {Change[][]} from @param {Change[][]} to @param {boolean} back */
function step(from, to, back) {
  const changes = from.pop();
  if (!changes) return;
  to.push(changes);
  apply(changes, back);
}

function fillDown() {
  const chosen = range();
  if (chosen.length < 2) {
    says.textContent = 'Choose the cells to fill with Shift and the arrow keys first.';
    return;
  }
  /** @type {Map<number, string>} */
  const top = new Map();
  /** @type {[HTMLTableCellElement, string][]} */
  const values = [];
  for (const cell of chosen)
    if (!top.has(cell.cellIndex)) top.set(cell.cellIndex, held(cell));
    else values.push([cell, top.get(cell.cellIndex) ?? '']);
  set(values);
}

const arrows = /** @type {Record<string, [number, number]>} */ ({
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
});

grid.addEventListener('keydown', (event) => {
  const cell = event.target;
  if (!(cell instanceof HTMLTableCellElement)) return;
  const control = event.ctrlKey || event.metaKey;
  if (arrows[event.key]) focus(neighbour(cell, ...arrows[event.key]), event.shiftKey);
  else if (event.key === 'Enter' || event.key === 'F2') open(cell);
  else if (event.key === 'Delete') set(range().map((c) => [c, '']));
  else if (control && event.key.toLowerCase() === 'z' && !event.shiftKey) step(done, undone, true);
  else if (control && (event.key.toLowerCase() === 'y' || event.key.toLowerCase() === 'z')) step(undone, done, false);
  else if (control && event.key.toLowerCase() === 'd') fillDown();
  else if (!control && !event.altKey && event.key.length === 1) open(cell, event.key);
  else return;
  event.preventDefault();
  event.stopPropagation();
});
grid.addEventListener('mousedown', (event) => {
  const cell = /** @type {HTMLElement} */ (event.target).closest('td[role="gridcell"]');
  if (!(cell instanceof HTMLTableCellElement) || cell.classList.contains('editing')) return;
  event.preventDefault();
  focus(cell, event.shiftKey);
});
grid.addEventListener('dblclick', (event) => {
  const cell = /** @type {HTMLElement} */ (event.target).closest('td[role="gridcell"]');
  if (cell instanceof HTMLTableCellElement) open(cell);
});

// A block of a spreadsheet is rows of cells parted by tabs.
document.addEventListener('paste', (event) => {
  const cell = document.activeElement;
  if (!(cell instanceof HTMLTableCellElement) || !grid.contains(cell)) return;
  event.preventDefault();
  const text = event.clipboardData?.getData('text/plain') ?? '';
  const block = text.replace(/\r?\n$/, '').split(/\r?\n/);
  /** @type {[HTMLTableCellElement, string][]} */
  const values = [];
  block.forEach((line, r) =>
    line.split('\t').forEach((value, c) => {
      const target = neighbour(cell, r, c);
      if (target) values.push([target, value.trim() === BLANK ? '' : value.trim()]);
    }),
  );
  set(values);
});
document.addEventListener('copy', (event) => {
  const chosen = range();
  if (chosen.length === 0) return;
  event.preventDefault();
  /** @type {Map<number, string[]>} */
  const rows = new Map();
  for (const cell of chosen) {
    const row = /** @type {HTMLTableRowElement} */ (cell.closest('tr')).rowIndex;
    rows.set(row, [...(rows.get(row) ?? []), held(cell)]);
  }
  event.clipboardData?.setData('text/plain', [...rows.values()].map((r) => r.join('\t')).join('\n'));
});

undo.addEventListener('click', () => step(done, undone, true));
redo.addEventListener('click', () => step(undone, done, false));
byId('gridfill').addEventListener('mousedown', (event) => event.preventDefault());
byId('gridfill').addEventListener('click', fillDown);

/** Saves what was edited. @param {boolean} ask */
async function keep(ask) {
  save.disabled = true;
  says.textContent = 'Saving …';
  const why = /** @type {HTMLInputElement} */ (byId('gridwhy')).value;
  const answer = await post(grid.dataset.save ?? '', { edits: [...edits.keys()].map(edit), why, ask });
  if (answer.ok) {
    window.onbeforeunload = null;
    edits.clear();
    window.location.reload();
    return;
  }
  const text = await answer.text();
  save.disabled = false;
  if (answer.status === 403 && !ask && text && window.confirm(`${text}\n\nRequest these changes from the party?`)) {
    await keep(true);
    return;
  }
  says.textContent = text || 'The changes could not be saved; try again.';
}
save.addEventListener('click', () => void keep(false));
// What was typed is not lost by leaving the page.
window.addEventListener('beforeunload', (event) => {
  if (edits.size > 0) event.preventDefault();
});

if (cells.length > 0) cells[0].tabIndex = 0;
