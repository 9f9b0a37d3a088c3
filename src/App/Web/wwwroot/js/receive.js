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
  row.append(link, '; sending then continues automatically.');
  list.prepend(row);
}

/** What the server will not take, however often it is sent. */
class Refusal extends Error {
  /**
   * @param {string} message
   * @param {number} status
   */
  constructor(message, status) {
    super(message);
    this.status = status;
  }
}

const drop = /** @type {HTMLFormElement | null} */ (document.getElementById('drop'));
if (drop) {
  const { base, piece } = drop.dataset;
  const token = JSON.parse(document.body.getAttribute('hx-headers') ?? '{}').RequestVerificationToken;
  const list = byId('uploads'),
    input = /** @type {HTMLInputElement} */ (byId('files'));

  /**
   * @param {string | URLSearchParams} query
   * @param {Blob} [body]
   * @param {string} [type]
   */
  const post = (query, body, type) =>
    fetch(`${base}?${query}`, {
      method: 'POST',
      body,
      headers: { RequestVerificationToken: token, ...(type && { 'Content-Type': type }) },
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
        if (answer.status < 500 || answer.status === 507 || tries > 40)
          throw new Refusal(await answer.text(), answer.status);
      } catch (error) {
        if (error instanceof Refusal || tries > 40) throw error;
      }
      await pause(Math.min(3000, 250 * 2 ** tries));
    }
  };

  /** The GlobalId of the project, which is near the head of a model.
   * @param {File} file */
  const projectOf = async (file) =>
    /IFCPROJECT\s*\(\s*'([^']{22})'/i.exec(await file.slice(0, 1 << 20).text())?.[1] ?? '';

  /** @type {HTMLSelectElement} */
  const party = /** @type {any} */ (byId('party'));
  const source = /** @type {HTMLInputElement} */ (byId('source'));
  let chosen = false;
  for (const field of [party, source])
    field.addEventListener('input', () => {
      chosen = true;
    });

  /** Party and source of a file: what the person has chosen; else what the file says.
   * @param {File} file */
  const target = async (file) => {
    const form = { party: party.value, source: source.value, why: '' };
    if (chosen) return form;
    const query = new URLSearchParams({ handler: 'Suggest', fileName: file.name, project: await projectOf(file) });
    const answer = await fetch(`${base}?${query}`);
    const found = answer.ok ? await answer.json() : null;
    if (!found) return form;
    const code = [...party.options].find((o) => o.value === found.party)?.text ?? '';
    return { party: found.party, source: found.source, why: `for ${code} ${found.source}, since ${found.why}` };
  };

  /** Whether a piece of the file is what the server has.
   * @param {Blob} slice
   * @param {string | undefined} held */
  const isHeld = async (slice, held) => {
    // Browsers compute it only where the page came by TLS or from this machine; without, everything is sent again.
    if (!held || !crypto.subtle) return false;
    const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', await slice.arrayBuffer()));
    return [...hash].map((b) => b.toString(16).padStart(2, '0')).join('') === held;
  };

  /** @param {URLSearchParams} words */
  const begin = async (words) => {
    words.set('ask', 'true');
    try {
      return await (await persist(words)).json();
    } catch (error) {
      if (!(error instanceof Refusal) || error.status !== 428 || !window.confirm(error.message)) throw error;
      words.delete('ask');
      return await (await persist(words)).json();
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
      const to = await target(file);
      if (to.why) text.textContent = `${file.name} is being sent ${to.why} …`;
      const { id, held } = await begin(
        new URLSearchParams({
          handler: 'Begin',
          party: to.party,
          source: to.source,
          fileName: file.name,
          length: String(file.size),
        }),
      );
      document.body.dispatchEvent(new Event('refresh'));
      for (let number = 0, at = 0; at < file.size; number++, at += Number(piece)) {
        const slice = file.slice(at, at + Number(piece));
        if (!(await isHeld(slice, held[number])))
          await persist(`handler=Piece&id=${id}&number=${number}`, slice, 'application/octet-stream');
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
  const sendAll = async (files) => {
    for (const file of files) await send(file);
  };

  input.addEventListener('change', async () => {
    await sendAll([...(input.files ?? [])]);
    input.value = '';
  });
  drop.addEventListener('submit', (event) => event.preventDefault());
  drop.addEventListener('dragover', (event) => {
    event.preventDefault();
    drop.classList.add('over');
  });
  drop.addEventListener('dragleave', () => drop.classList.remove('over'));
  drop.addEventListener('drop', (event) => {
    event.preventDefault();
    drop.classList.remove('over');
    sendAll([...(event.dataTransfer?.files ?? [])]);
  });
}
