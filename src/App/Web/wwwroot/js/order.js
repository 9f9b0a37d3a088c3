// Enter in a word of the sentence closes it instead of running the order.
document.getElementById('order').addEventListener('keydown', (event) => {
  if (event.key !== 'Enter' || !event.target.matches('.pop input')) return;
  event.preventDefault();
  const word = event.target.closest('details');
  event.target.dispatchEvent(new Event('change', { bubbles: true }));
  word.open = false;
  word.querySelector('summary').focus();
});
