// What the page's own markup promises to hold.

/**
 * The element of an id; the page and its script are one, so a missing one is a fault of ours.
 * @param {string} id
 * @returns {HTMLElement}
 */
export function byId(id) {
  const found = document.getElementById(id);
  if (!found) throw new Error(`The page has no #${id}.`);
  return found;
}
