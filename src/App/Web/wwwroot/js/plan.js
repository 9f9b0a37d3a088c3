// The picture of a drawing: fetched as SVG, moved and sized through its view box, layers switched by their names.
const host = document.getElementById('plan'), paper = document.getElementById('paper'), at = document.getElementById('at');
const names = [...host.querySelectorAll('[data-name]')];
let svg, home, view, drawn, parts, patterns, slow = false, waiting;

async function load() {
  const layout = document.getElementById('space')?.value ?? '';
  const answer = await fetch(`${host.dataset.source}&layout=${encodeURIComponent(layout)}`);
  if (!answer.ok) {
    paper.textContent = answer.status === 404 ? 'Nothing here has a place to be drawn.' : 'The picture could not be fetched. Load the page again.';
    return;
  }

  const text = await answer.text();
  svg = document.importNode(new DOMParser().parseFromString(text, 'image/svg+xml').documentElement, true);
  home = svg.getAttribute('viewBox').split(' ').map(Number);
  view = [...home];
  parts = [...svg.querySelectorAll('[data-box]')].map((part) => ({ part, box: part.dataset.box.split(' ').map(Number), size: Number(part.dataset.size), least: 'text' in part.dataset ? 3 : 1, gap: document.createComment(''), hidden: false }));
  patterns = [...svg.querySelectorAll('[data-spacing]')].map((lines) => ({ lines, spacing: Number(lines.dataset.spacing) }));
  names.forEach(show);
  const begun = performance.now();
  draw();
  // Only now, without what is not seen: letters are costly to place.
  paper.replaceChildren(svg);
  // Where drawing anew takes long, the picture is moved as it is and drawn when the hand rests.
  requestAnimationFrame(() => setTimeout(() => {
    slow = text.length > 1e6 && performance.now() - begun > 120;
    svg.style.willChange = slow ? 'transform' : '';
    host.dataset.ready = 'true';
  }));
}

function show(box) {
  for (const group of svg.querySelectorAll('[data-layer]')) {
    if (group.dataset.layer !== box.dataset.name) continue;
    if (box.checked) group.removeAttribute('display'); else group.setAttribute('display', 'none');
  }
}

// How many pixels a step is.
function scale(of) {
  return Math.min(paper.clientWidth / of[2], paper.clientHeight / of[3]);
}

// What is elsewhere, or too small to be seen or read, is taken out (hidden it would still cost a second a frame in a large drawing). Lines stay as wide on the screen, whatever the size.
function draw() {
  const [x, y, w, h] = view, px = scale(view);
  const left = x + w / 2 - paper.clientWidth / px / 2, right = left + paper.clientWidth / px, top = y + h / 2 - paper.clientHeight / px / 2, bottom = top + paper.clientHeight / px;
  for (const p of parts) {
    const hidden = p.box[0] > right || p.box[2] < left || p.box[1] > bottom || p.box[3] < top || p.size * px < p.least;
    if (hidden && !p.hidden) p.part.replaceWith(p.gap);
    else if (!hidden && p.hidden) p.gap.replaceWith(p.part);
    p.hidden = hidden;
  }

  drawn = [...view];
  svg.style.transform = '';
  svg.setAttribute('viewBox', view.join(' '));
  svg.querySelector('#strokes').setAttribute('stroke-width', (1.1 / px).toPrecision(6));
  for (const p of patterns) p.lines.setAttribute('stroke-width', (1 / px / p.spacing).toPrecision(4));
}

function apply() {
  if (!slow) return draw();
  const px = scale(view), before = scale(drawn), k = px / before;
  const shift = (i, size) => (drawn[i] - view[i]) * px + (size - view[i + 2] * px) / 2 - (size - drawn[i + 2] * before) / 2 * k;
  svg.style.transformOrigin = '0 0';
  svg.style.transform = `translate(${shift(0, paper.clientWidth)}px, ${shift(1, paper.clientHeight)}px) scale(${k})`;
  clearTimeout(waiting);
  waiting = setTimeout(draw, 250);
}

function zoom(factor, x = view[0] + view[2] / 2, y = view[1] + view[3] / 2) {
  view = [x - (x - view[0]) * factor, y - (y - view[1]) * factor, view[2] * factor, view[3] * factor];
  apply();
}

function place(event) {
  const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
  return [p.x, p.y];
}

host.querySelectorAll('[data-zoom]').forEach((button) => button.addEventListener('click', () => {
  if (!svg) return;
  if (button.dataset.zoom === 'fit') { view = [...home]; apply(); } else zoom(button.dataset.zoom === 'in' ? 0.7 : 1 / 0.7);
}));
document.getElementById('space')?.addEventListener('change', load);
names.forEach((box) => box.addEventListener('change', () => svg && show(box)));
paper.addEventListener('wheel', (event) => {
  if (!svg) return;
  event.preventDefault();
  zoom(event.deltaY > 0 ? 1.2 : 1 / 1.2, ...place(event));
}, { passive: false });
paper.addEventListener('pointerdown', (event) => svg && paper.setPointerCapture(event.pointerId));
paper.addEventListener('pointermove', (event) => {
  if (!svg) return;
  const [x, y] = place(event), [cx, cy] = svg.dataset.corner.split(' ').map(Number), unit = Number(svg.dataset.unit);
  at.textContent = `x ${(cx + x * unit).toFixed(3)}  y ${(cy - y * unit).toFixed(3)}`;
  if (!paper.hasPointerCapture(event.pointerId)) return;
  const step = 1 / scale(view);
  view = [view[0] - event.movementX * step, view[1] - event.movementY * step, view[2], view[3]];
  apply();
});
paper.addEventListener('keydown', (event) => {
  const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
  if (!svg || !(step || '+-'.includes(event.key))) return;
  event.preventDefault();
  if (step) { view[0] += step[0] * view[2] / 10; view[1] += step[1] * view[3] / 10; apply(); } else zoom(event.key === '+' ? 0.7 : 1 / 0.7);
});
load();
