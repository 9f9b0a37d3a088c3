// The picture of a drawing: fetched as SVG, moved and sized through its view box, layers switched by their names.
const host = document.getElementById('plan'), paper = document.getElementById('paper'), at = document.getElementById('at');
const names = [...host.querySelectorAll('[data-name]')];
let svg, home, view;

async function load() {
  const layout = document.getElementById('space')?.value ?? '';
  const answer = await fetch(`${host.dataset.source}&layout=${encodeURIComponent(layout)}`);
  if (!answer.ok) {
    paper.textContent = answer.status === 404 ? 'Nothing here has a place to be drawn.' : 'The picture could not be fetched. Load the page again.';
    return;
  }

  svg = document.importNode(new DOMParser().parseFromString(await answer.text(), 'image/svg+xml').documentElement, true);
  paper.replaceChildren(svg);
  home = svg.getAttribute('viewBox').split(' ').map(Number);
  view = [...home];
  names.forEach(show);
  apply();
  host.dataset.ready = 'true';
}

function show(box) {
  for (const group of svg.querySelectorAll('[data-layer]')) {
    if (group.dataset.layer !== box.dataset.name) continue;
    if (box.checked) group.removeAttribute('display'); else group.setAttribute('display', 'none');
  }
}

// Lines stay as wide on the screen, whatever the size.
function apply() {
  svg.setAttribute('viewBox', view.join(' '));
  svg.querySelector('#strokes').setAttribute('stroke-width', (1.1 * Math.max(view[2] / paper.clientWidth, view[3] / paper.clientHeight)).toPrecision(6));
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
  const scale = Math.max(view[2] / paper.clientWidth, view[3] / paper.clientHeight);
  view = [view[0] - event.movementX * scale, view[1] - event.movementY * scale, view[2], view[3]];
  apply();
});
paper.addEventListener('keydown', (event) => {
  const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
  if (!svg || !(step || '+-'.includes(event.key))) return;
  event.preventDefault();
  if (step) { view[0] += step[0] * view[2] / 10; view[1] += step[1] * view[3] / 10; apply(); } else zoom(event.key === '+' ? 0.7 : 1 / 0.7);
});
load();
