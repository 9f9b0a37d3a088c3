// The digits 1–5 go to the stops of the job; Escape closes what is open.
document.addEventListener('keydown', (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === 'Escape') {
    const open = document.querySelector('details[open].cell, details[open].word');
    if (open) { open.open = false; open.querySelector('summary').focus(); }
    return;
  }
  if (event.target.closest('input, select, textarea')) return;
  document.querySelector(`.route a[data-key="${CSS.escape(event.key)}"]`)?.click();
});

// Only one list or word is open at a time.
document.addEventListener('toggle', (event) => {
  const opened = event.target;
  if (!opened.open || !opened.matches('details.cell, details.word')) return;
  for (const other of document.querySelectorAll('details[open].cell, details[open].word')) if (other !== opened) other.open = false;
}, true);
document.addEventListener('click', (event) => {
  for (const open of document.querySelectorAll('details[open].cell, details[open].word')) if (!open.contains(event.target)) open.open = false;
});

// Ask before what cannot be undone.
document.addEventListener('submit', (event) => {
  const question = event.target.dataset.confirm;
  if (question && !window.confirm(question)) event.preventDefault();
});

// Sizes that come with the page: the policy allows no inline styles, the script may set them.
function applySizes(root) {
  for (const bar of root.querySelectorAll('[data-h]')) bar.style.height = `${bar.dataset.h}px`;
  for (const bar of root.querySelectorAll('[data-w]')) bar.style.width = `${bar.dataset.w}%`;
  for (const sheet of root.querySelectorAll('[data-rows]')) sheet.style.setProperty('--row', `${sheet.dataset.rows}px`);
}
applySizes(document);
document.addEventListener('htmx:afterSettle', (event) => applySizes(event.target.parentElement ?? document));
