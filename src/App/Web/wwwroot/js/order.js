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
byId('order').addEventListener('toggle', (event) => {
  const word = event.target;
  if (!(word instanceof HTMLDetailsElement) || !word.open) return;
  const pop = word.querySelector('.pop');
  if (!pop) return;
  pop.classList.remove('leftward');
  pop.classList.toggle('leftward', pop.getBoundingClientRect().right > document.documentElement.clientWidth - 8);
}, true);
