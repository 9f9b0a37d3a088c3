// Placed drawings among the models: their lines at their level, each shown with its storey.
import * as THREE from 'three';

/**
 * @typedef {{ id: string, revision: string, label: string, storey: number, upright: boolean }} SheetData
 * the acceptance that placed it, its revision, and whether it is a section that stands upright
 */
/**
 * @typedef {{ sheet: SheetData, on: boolean, shown: boolean, within: boolean, z: number, lines: THREE.LineSegments | null }} Entry
 * switched on, its storey shown, its height within the cut; z in the job frame
 */

export class Sheets {
  /**
   * @param {import('./scene.js').Building} building
   * @param {SheetData[]} data
   */
  constructor(building, data) {
    this.building = building;
    /** @type {Entry[]} */
    this.sheets = data.map((sheet) => ({ sheet, on: true, shown: true, within: true, z: 0, lines: null }));
  }

  /** @param {string} base */
  async load(base) {
    for (const entry of this.sheets) {
      const answer = await fetch(`${base}?handler=Sheet&sheet=${entry.sheet.id}&revision=${entry.sheet.revision}`);
      if (!answer.ok) continue;
      entry.lines = this.read(await answer.arrayBuffer());
      entry.z = entry.lines.userData.z;
      this.building.edges.add(entry.lines);
    }
    this.show();
  }

  /**
   * The layout is described at SheetLines in src/Core/Exchange/Pictures.
   * @param {ArrayBuffer} buffer
   */
  read(buffer) {
    const view = new DataView(buffer), [ox, oy, oz] = [0, 8, 16].map((at) => view.getFloat64(at, true));
    const count = view.getUint32(24, true), positions = new Float32Array(count * 6), colours = new Float32Array(count * 6);
    const { offset } = this.building, colour = new THREE.Color();
    for (let i = 0, at = 28; i < count; i++, at += 28) {
      positions.set([0, 4, 8, 12, 16, 20].map((o) => view.getFloat32(at + o, true)), 6 * i);
      colour.setRGB(view.getUint8(at + 24) / 255, view.getUint8(at + 25) / 255, view.getUint8(at + 26) / 255);
      colours.set([colour.r, colour.g, colour.b, colour.r, colour.g, colour.b], 6 * i);
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
    geometry.setAttribute('color', new THREE.BufferAttribute(colours, 3));
    const lines = new THREE.LineSegments(geometry, new THREE.LineBasicMaterial({ vertexColors: true }));
    // A hair above its level, so that a floor at the same height does not hide it.
    lines.position.set(ox - offset[0], oy - offset[1], oz - offset[2] + 0.02);
    lines.userData = { z: oz };
    return lines;
  }

  /** @param {(storey: number) => boolean} isShown */
  apply(isShown) {
    for (const entry of this.sheets) entry.shown = isShown(entry.sheet.storey);
    this.show();
  }

  /**
   * @param {string} revision
   * @param {boolean} on
   */
  toggle(revision, on) {
    for (const entry of this.sheets) if (entry.sheet.revision === revision) entry.on = on;
    this.show();
  }

  /** @param {number[]} heights between which the building is shown, metres in the job frame */
  cut([low, high]) {
    for (const entry of this.sheets) entry.within = entry.sheet.upright || (entry.z >= low && entry.z <= high);
    this.show();
  }

  show() {
    for (const { lines, on, shown, within } of this.sheets) if (lines) lines.visible = on && shown && within;
    this.building.draw();
  }
}
