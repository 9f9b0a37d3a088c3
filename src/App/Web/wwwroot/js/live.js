// Open pages learn of changes: a notice, and whoever reads decides when the page is loaded again.

const notice = document.getElementById('live');
const address = notice?.dataset.live;
if (notice && address) {
  const events = new EventSource(address);
  /** @type {string | null} */
  let first = null;
  events.addEventListener('message', ({ data }) => {
    first ??= data;
    if (data === first) return;
    notice.hidden = false;
    events.close();
  });
  notice.querySelector('a')?.addEventListener('click', (event) => {
    event.preventDefault();
    location.reload();
  });
}
