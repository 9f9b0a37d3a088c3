// Enter in a word of the sentence closes it instead of running the order.
import { byId } from './page.js';

byId('order').addEventListener('keydown', (event) => {
  const input = event.target;
  if (event.key !== 'Enter' || !(input instanceof HTMLElement) || !input.matches('.pop input')) return;
  event.preventDefault();
  input.dispatchEvent(new Event('change', { bubbles: true }));
  const word = input.closest('details');
  if (!word) return;
  word.open = false;
  word.querySelector('summary')?.focus();
});

// A word near the right edge opens to the left.
byId('order').addEventListener(
  'toggle',
  (event) => {
    const word = event.target;
    if (!(word instanceof HTMLDetailsElement) || !word.open) return;
    const pop = word.querySelector('.pop');
    if (!pop) return;
    pop.classList.remove('leftward');
    pop.classList.toggle('leftward', pop.getBoundingClientRect().right > document.documentElement.clientWidth - 8);
  },
  true,
);

/** The values in a rule's field.
 * @param {HTMLInputElement} field */
const valuesOf = (field) =>
  field.value
    .split(';')
    .map((v) => v.trim())
    .filter(Boolean);

// What is looked at may have been changed since the page was loaded.
document.body.addEventListener('htmx:configRequest', (event) => {
  const { elt, parameters } = /** @type {CustomEvent} */ (event).detail;
  const rule = elt instanceof HTMLElement ? elt.closest('.values') : null;
  if (!(rule instanceof HTMLElement)) return;
  parameters.what = /** @type {HTMLSelectElement} */ (byId(`rule-${rule.dataset.line}-what`)).value;
});

// A list of values shows which of them the rule has, and changes them.
document.body.addEventListener('htmx:afterSwap', (event) => {
  const list = /** @type {HTMLElement} */ (event.target);
  const rule = list.closest('.values');
  if (!(rule instanceof HTMLElement)) return;
  const has = valuesOf(/** @type {HTMLInputElement} */ (byId(`rule-${rule.dataset.line}-are`)));
  for (const box of list.querySelectorAll('input')) box.checked = has.includes(box.dataset.value ?? '');
});
document.body.addEventListener(
  'change',
  (event) => {
    const box = event.target;
    if (!(box instanceof HTMLInputElement) || !box.matches('.values input')) return;
    event.stopPropagation();
    const field = /** @type {HTMLInputElement} */ (byId(`rule-${box.dataset.line}-are`));
    const value = box.dataset.value ?? '';
    const rest = valuesOf(field).filter((v) => v !== value);
    field.value = (box.checked ? [...rest, value] : rest).join('; ');
    field.dispatchEvent(new Event('change', { bubbles: true }));
  },
  true,
);

// Rules that somebody has gone on editing since a preview was asked for are not replaced by its answer; the next answer does.
let edited = 0,
  asked = 0;
/** @type {WeakMap<XMLHttpRequest, number>} */
const sent = new WeakMap();
for (const kind of ['input', 'change'])
  document.body.addEventListener(
    kind,
    (event) => {
      if (event.target instanceof HTMLElement && event.target.closest('#rules')) edited = performance.now();
    },
    true,
  );
document.body.addEventListener('htmx:beforeSend', (event) => {
  sent.set(/** @type {CustomEvent} */ (event).detail.xhr, performance.now());
});
document.body.addEventListener('htmx:beforeSwap', (event) => {
  asked = sent.get(/** @type {CustomEvent} */ (event).detail.xhr) ?? 0;
});
document.body.addEventListener('htmx:oobBeforeSwap', (event) => {
  const { detail } = /** @type {CustomEvent} */ (event);
  if (detail.target.id === 'rules' && edited > asked) detail.shouldSwap = false;
});
