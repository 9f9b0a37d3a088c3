// Sends files piece by piece; a piece that fails is sent again, so a restarted server costs seconds, not the file.
import { byId } from './page.js';

/**
 * The session has ended while a file is sent: it goes on once somebody has signed in again beside it.
 * @param {HTMLElement} list
 */
function signIn(list) {
  if (document.getElementById('signed-out')) return;
  const row = document.createElement('p');
  row.id = 'signed-out';
  row.className = 'due';
  row.append('You were signed out. ');
  const link = document.createElement('a');
  link.href = '/signin';
  link.target = '_blank';
  link.textContent = 'Sign in again in another window';
  row.append(link, '; sending goes on by itself then.');
  list.prepend(row);
}

/** What the server will not take, however often it is sent. */
class Refusal extends Error {}

const drop = /** @type {HTMLFormElement | null} */ (document.getElementById('drop'));
if (drop) {
  const { base, piece } = drop.dataset;
  const token = JSON.parse(document.body.getAttribute('hx-headers') ?? '{}').RequestVerificationToken;
  const list = byId('uploads'), input = /** @type {HTMLInputElement} */ (byId('files'));

  /**
   * @param {string | URLSearchParams} query
   * @param {Blob} [body]
   * @param {string} [type]
   */
  const post = (query, body, type) => fetch(`${base}?${query}`, {
    method: 'POST', body, headers: { RequestVerificationToken: token, ...(type && { 'Content-Type': type }) },
  });
  /** @param {number} ms */
  const pause = (ms) => new Promise((done) => setTimeout(done, ms));

  /**
   * Errors of the network and of a server that is going down are worth another try; refusals are not.
   * @param {string | URLSearchParams} query
   * @param {Blob} [body]
   * @param {string} [type]
   */
  const persist = async (query, body, type) => {
    for (let tries = 0; ; tries++) {
      try {
        const answer = await post(query, body, type);
        if (answer.ok) return answer;
        if (answer.status === 401) {
          signIn(list);
          await pause(3000);
          tries--;
          continue;
        }
        if (answer.status < 500 || answer.status === 507 || tries > 40) throw new Refusal(await answer.text());
      } catch (error) {
        if (error instanceof Refusal || tries > 40) throw error;
      }
      await pause(Math.min(3000, 250 * 2 ** tries));
    }
  };

  /** @param {File} file */
  const send = async (file) => {
    const row = document.createElement('p');
    const bar = document.createElement('progress');
    bar.max = file.size || 1;
    bar.value = 0;
    bar.setAttribute('aria-label', file.name);
    const text = document.createElement('span');
    text.textContent = `${file.name} is being sent …`;
    row.append(text, bar);
    list.append(row);
    try {
      const form = new FormData(drop);
      const words = new URLSearchParams({
        handler: 'Begin', party: String(form.get('party')), source: String(form.get('source')),
        fileName: file.name, length: String(file.size),
      });
      const { id } = await (await persist(words)).json();
      document.body.dispatchEvent(new Event('refresh'));
      for (let number = 0, at = 0; at < file.size; number++, at += Number(piece)) {
        await persist(`handler=Piece&id=${id}&number=${number}`, file.slice(at, at + Number(piece)), 'application/octet-stream');
        bar.value = Math.min(file.size, at + Number(piece));
      }
      await persist(`handler=Complete&id=${id}`);
      row.remove();
      document.getElementById('signed-out')?.remove();
    } catch (error) {
      bar.remove();
      text.className = 'error';
      text.textContent = `${file.name}: ${/** @type {Error} */ (error).message}`;
    }
    document.body.dispatchEvent(new Event('refresh'));
  };

  /** @param {Iterable<File>} files */
  const sendAll = async (files) => { for (const file of files) await send(file); };

  input.addEventListener('change', async () => { await sendAll([...input.files ?? []]); input.value = ''; });
  drop.addEventListener('submit', (event) => event.preventDefault());
  drop.addEventListener('dragover', (event) => { event.preventDefault(); drop.classList.add('over'); });
  drop.addEventListener('dragleave', () => drop.classList.remove('over'));
  drop.addEventListener('drop', (event) => {
    event.preventDefault();
    drop.classList.remove('over');
    sendAll([...event.dataTransfer?.files ?? []]);
  });
}
