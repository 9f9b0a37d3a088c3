// What every page does.

/** @param {Event} event */
const from = (event) => /** @type {HTMLElement} */ (event.target);
const opened = () =>
  /** @type {NodeListOf<HTMLDetailsElement>} */ (
    document.querySelectorAll('details[open].cell, details[open].word:not([data-sticky])')
  );

// The digits 1–5 go to the stops of the job; Escape closes what is open.
document.addEventListener('keydown', (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === 'Escape') {
    const [open] = opened();
    if (open) {
      open.open = false;
      open.querySelector('summary')?.focus();
    }
    return;
  }
  if (from(event).closest('input, select, textarea') || document.body.dataset.keys === 'off') return;
  if (event.key === '?') {
    const keys = /** @type {HTMLDialogElement | null} */ (document.querySelector('#keys'));
    if (keys && !keys.open) keys.showModal();
    return;
  }
  /** @type {HTMLElement | null} */ (document.querySelector(`.route a[data-key="${CSS.escape(event.key)}"]`))?.click();
});

// Only one list or word is open at a time.
document.addEventListener(
  'toggle',
  (event) => {
    const details = event.target;
    if (!(details instanceof HTMLDetailsElement) || !details.open || !details.matches('.cell, .word')) return;
    for (const other of opened()) if (other !== details) other.open = false;
  },
  true,
);
document.addEventListener('click', (event) => {
  for (const open of opened()) if (!open.contains(from(event))) open.open = false;
});

// What explains a page can be folded away, and stays folded.
for (const fold of /** @type {NodeListOf<HTMLDetailsElement>} */ (document.querySelectorAll('details[data-fold]'))) {
  const key = `fold ${fold.dataset.fold}`;
  if (localStorage.getItem(key)) fold.open = false;
  fold.addEventListener('toggle', () =>
    fold.open ? localStorage.removeItem(key) : localStorage.setItem(key, 'folded'),
  );
}

// Ask before what cannot be undone.
document.addEventListener('submit', (event) => {
  const question = from(event).dataset.confirm;
  if (question && !window.confirm(question)) event.preventDefault();
});

/**
 * Sizes that come with the page: the policy allows no inline styles, the script may set them.
 * @param {ParentNode} root
 */
function applySizes(root) {
  /** @param {string} selector */
  const each = (selector) => /** @type {NodeListOf<HTMLElement>} */ (root.querySelectorAll(selector));
  for (const bar of each('[data-h]')) bar.style.height = `${bar.dataset.h}px`;
  for (const bar of each('[data-w]')) bar.style.width = `${bar.dataset.w}%`;
  for (const sheet of each('[data-rows]')) sheet.style.setProperty('--row', `${sheet.dataset.rows}px`);
  for (const sheet of each('[data-sources]')) sheet.style.setProperty('--sources', sheet.dataset.sources ?? '0');
}
applySizes(document);
document.addEventListener('htmx:afterSettle', (event) => applySizes(from(event).parentElement ?? document));

// A list that somebody opened stays open, and where it was scrolled to, when the server replaces what is around it.
/** @type {Map<string, number>} */
let kept = new Map();
document.addEventListener('htmx:beforeSwap', (event) => {
  kept = new Map(
    [.../** @type {NodeListOf<HTMLDetailsElement>} */ (from(event).querySelectorAll('details[id][open]'))].map(
      (list) => [list.id, list.querySelector('.scroll')?.scrollTop ?? 0],
    ),
  );
});
document.addEventListener('htmx:afterSettle', () => {
  for (const [id, top] of kept) {
    const list = document.getElementById(id);
    if (!(list instanceof HTMLDetailsElement)) continue;
    list.open = true;
    list.querySelector('.scroll')?.scrollTo(0, top);
  }

  kept.clear();
});
