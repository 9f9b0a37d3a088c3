// Placed drawings among the models: their lines at their level, each shown with its storeys, picked and caught like elements.
import * as THREE from 'three';

const NEAR = 6,
  PICKED = 0x96361f;
/** Bytes of the head and of a segment, see SheetLines in src/Core/Exchange/Pictures. */
const HEAD = 28,
  SEGMENT = 32;

/**
 * @typedef {{ id: string, revision: string, label: string, colour: string, storeys: number[], upright: boolean }} SheetData
 * the acceptance that placed it, its revision, its party's colour, and whether it is a section that is upright
 */
/**
 * @typedef {{ sheet: SheetData, shown: boolean, within: boolean, z: number, lines: THREE.LineSegments | null, items: Uint32Array }} Entry
 * shown by name and storey, its height within the cut; z in the job frame; items: of each segment
 */
/** @typedef {{ entry: Entry, item: number, point: THREE.Vector3, end: THREE.Vector3 | null }} Hit end: an end or middle nearby */

export class Sheets {
  /**
   * @param {import('./scene.js').Building} building
   * @param {SheetData[]} data
   */
  constructor(building, data) {
    this.building = building;
    this.byParty = false;
    /** @type {Entry[]} */
    this.sheets = data.map((sheet) => ({
      sheet,
      shown: true,
      within: true,
      z: 0,
      lines: null,
      items: new Uint32Array(),
    }));
    /** @type {THREE.LineSegments | null} */
    this.mark = null;
  }

  /** @param {string} base */
  async load(base) {
    for (const entry of this.sheets) {
      const answer = await fetch(`${base}?handler=Sheet&sheet=${entry.sheet.id}&revision=${entry.sheet.revision}`);
      if (!answer.ok) continue;
      entry.lines = this.read(await answer.arrayBuffer(), entry);
      entry.z = entry.lines.userData.z;
      this.building.edges.add(entry.lines);
    }
    this.show();
  }

  /**
   * @param {ArrayBuffer} buffer
   * @param {Entry} entry takes the items
   */
  read(buffer, entry) {
    const view = new DataView(buffer),
      [ox, oy, oz] = [0, 8, 16].map((at) => view.getFloat64(at, true));
    const count = view.getUint32(HEAD - 4, true),
      positions = new Float32Array(count * 6),
      colours = new Float32Array(count * 6);
    const { offset } = this.building,
      colour = new THREE.Color();
    entry.items = new Uint32Array(count);
    for (let i = 0, at = HEAD; i < count; i++, at += SEGMENT) {
      positions.set(
        [0, 4, 8, 12, 16, 20].map((o) => view.getFloat32(at + o, true)),
        6 * i,
      );
      colour.setRGB(view.getUint8(at + 24) / 255, view.getUint8(at + 25) / 255, view.getUint8(at + 26) / 255);
      colours.set([colour.r, colour.g, colour.b, colour.r, colour.g, colour.b], 6 * i);
      entry.items[i] = view.getUint32(at + 28, true);
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
    geometry.setAttribute('color', new THREE.BufferAttribute(colours, 3));
    const lines = new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ vertexColors: true }));
    // A hair above its level, so that a floor at the same height does not hide it.
    lines.position.set(ox - offset[0], oy - offset[1], oz - offset[2] + 0.02);
    lines.updateMatrixWorld();
    lines.userData = { z: oz };
    return lines;
  }

  /**
   * @param {(label: string) => boolean} isOff
   * @param {(storey: number) => boolean} isShown
   */
  apply(isOff, isShown) {
    for (const entry of this.sheets) entry.shown = !isOff(entry.sheet.label) && entry.sheet.storeys.some(isShown);
    this.show();
  }

  /** @param {number[]} heights between which the building is shown, metres in the job frame */
  cut([low, high]) {
    for (const entry of this.sheets) entry.within = entry.sheet.upright || (entry.z >= low && entry.z <= high);
    this.show();
  }

  /** @param {boolean} on in their party's colour, not in their own */
  colour(on) {
    this.byParty = on;
    for (const { lines, sheet } of this.sheets) {
      if (!lines) continue;
      const look = /** @type {THREE.LineBasicMaterial} */ (lines.material);
      look.vertexColors = !on;
      look.color.setStyle(on ? sheet.colour : '#ffffff', THREE.LinearSRGBColorSpace);
      look.needsUpdate = true;
    }
    this.building.draw();
  }

  show() {
    for (const { lines, shown, within } of this.sheets) if (lines) lines.visible = shown && within;
    this.building.draw();
  }

  /**
   * The line nearest to a point of the canvas, within a few pixels; null for none.
   * @param {number} x
   * @param {number} y
   * @param {number} reach pixels within which ends and middles catch
   * @returns {Hit | null}
   */
  pick(x, y, reach = NEAR) {
    const { camera, canvas } = this.building,
      w = canvas.clientWidth / 2,
      h = canvas.clientHeight / 2;
    camera.updateMatrixWorld();
    const eye = new THREE.Matrix4().multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse),
      m = new THREE.Matrix4();
    let near = NEAR,
      caught = reach,
      at = -1,
      along = 0;
    /** @type {Entry | null} */
    let found = null;
    /** @type {{ entry: Entry, segment: number, along: number } | null} */
    let end = null;
    for (const entry of this.sheets) {
      if (!entry.lines?.visible) continue;
      const e = m.multiplyMatrices(eye, entry.lines.matrixWorld).elements,
        p = entry.lines.geometry.attributes.position.array;
      for (let i = 0; i < p.length; i += 6) {
        const aw = e[3] * p[i] + e[7] * p[i + 1] + e[11] * p[i + 2] + e[15];
        const bw = e[3] * p[i + 3] + e[7] * p[i + 4] + e[11] * p[i + 5] + e[15];
        if (aw <= 0 || bw <= 0) continue;
        const ax = (1 + (e[0] * p[i] + e[4] * p[i + 1] + e[8] * p[i + 2] + e[12]) / aw) * w - x;
        const ay = (1 - (e[1] * p[i] + e[5] * p[i + 1] + e[9] * p[i + 2] + e[13]) / aw) * h - y;
        const bx = (1 + (e[0] * p[i + 3] + e[4] * p[i + 4] + e[8] * p[i + 5] + e[12]) / bw) * w - x;
        const by = (1 - (e[1] * p[i + 3] + e[5] * p[i + 4] + e[9] * p[i + 5] + e[13]) / bw) * h - y;
        const dx = bx - ax,
          dy = by - ay,
          whole = dx * dx + dy * dy;
        const t = whole > 0 ? Math.min(1, Math.max(0, -(ax * dx + ay * dy) / whole)) : 0;
        const off = Math.hypot(ax + t * dx, ay + t * dy);
        // Half-way on the screen is nearer to the nearer end in space.
        if (off < near) {
          near = off;
          found = entry;
          at = i;
          along = (t * aw) / (bw * (1 - t) + t * aw);
        }
        if (off >= caught) continue;
        for (const s of [0, 0.5, 1]) {
          const u = (s * bw) / (aw * (1 - s) + s * bw),
            far = Math.hypot(ax + u * dx, ay + u * dy);
          if (far < caught) {
            caught = far;
            end = { entry, segment: i, along: s };
          }
        }
      }
    }
    const corner = end && point(end.entry, end.segment, end.along);
    if (found) return { entry: found, item: found.items[at / 6], point: point(found, at, along), end: corner };
    return end && corner && { entry: end.entry, item: end.entry.items[end.segment / 6], point: corner, end: corner };
  }

  /**
   * Draws an item over everything else; null takes the mark away.
   * @param {Hit | null} hit
   */
  markItem(hit) {
    if (this.mark) {
      this.building.edges.remove(this.mark);
      this.mark.geometry.dispose();
    }
    this.mark = null;
    if (hit?.entry.lines) {
      const { items, lines } = hit.entry,
        p = lines.geometry.attributes.position.array;
      /** @type {number[]} */
      const own = [];
      items.forEach((item, i) => {
        if (item === hit.item) own.push(...p.slice(6 * i, 6 * i + 6));
      });
      const geometry = new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(own, 3));
      this.mark = new THREE.LineSegments(
        geometry,
        new THREE.LineBasicMaterial({ color: PICKED, depthTest: false, linewidth: 2 }),
      );
      this.mark.position.copy(lines.position);
      this.building.edges.add(this.mark);
    }
    this.building.draw();
  }
}

/**
 * @param {Entry} entry
 * @param {number} i where a segment begins
 * @param {number} along 0 its start, 1 its end
 */
function point(entry, i, along) {
  const lines = /** @type {THREE.LineSegments} */ (entry.lines),
    p = lines.geometry.attributes.position.array;
  const [x, y, z] = [0, 1, 2].map((k) => p[i + k] + along * (p[i + 3 + k] - p[i + k]));
  return new THREE.Vector3(x, y, z).applyMatrix4(lines.matrixWorld);
}
