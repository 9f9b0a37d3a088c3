// The building: chunks fetched as needed, one state for every element, one material.
import * as THREE from 'three';
import { OrbitControls } from 'three/addons/OrbitControls.js';
import { Batches } from './batch.js';
import { readChunk } from './chunk.js';
import { ElementStates, createMaterials } from './material.js';

const PARALLEL = 6;

export class Building {
  constructor(canvas, scene) {
    this.canvas = canvas;
    this.data = scene;
    let total = 0;
    this.first = scene.sources.map((s) => { const first = total; total += s.elements; return first; });
    this.total = total;
    this.columns = new Uint16Array(total * 3);
    this.states = new ElementStates(total);
    const palette = scene.sources.map((s) => new THREE.Color().setStyle(s.colour, THREE.LinearSRGBColorSpace));
    while (palette.length < 8) palette.push(new THREE.Color(0.6, 0.6, 0.6));
    scene.sources.forEach((s, i) => { for (let e = this.first[i]; e < this.first[i] + s.elements; e++) this.states.colour(e, Math.min(i, 7)); });
    Object.assign(this, createMaterials(this.states, palette.slice(0, 8)));
    this.renderer = new THREE.WebGLRenderer({ canvas, antialias: !navigator.webdriver, alpha: true, preserveDrawingBuffer: true });
    this.renderer.outputColorSpace = THREE.LinearSRGBColorSpace;
    this.renderer.setPixelRatio(Math.min(devicePixelRatio, 2));
    this.world = new THREE.Scene();
    this.camera = new THREE.PerspectiveCamera(38, 1, 0.1, 5000);
    this.camera.up.set(0, 0, 1);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.addEventListener('change', () => this.draw());
    this.target = new THREE.WebGLRenderTarget(1, 1, { type: THREE.FloatType, format: THREE.RGBAFormat, minFilter: THREE.NearestFilter, magFilter: THREE.NearestFilter });
    this.boxes = new THREE.Box3();
    this.batches = new Batches(this.shaded, this.states, (drawable) => this.show(drawable));
    this.origin = null;
    new ResizeObserver(() => this.resize()).observe(canvas.parentElement);
    this.resize();
  }

  /** Fetches columns and chunks, nearest the ground up; `progress(done, all)` follows. */
  async load(base, progress) {
    await Promise.all(this.data.sources.map(async (source, i) => {
      if (!source.elements) return;
      const answer = await fetch(`${base}?handler=Elements&source=${i}`);
      this.columns.set(new Uint16Array(await answer.arrayBuffer()), this.first[i] * 3);
    }));
    const queue = this.data.chunks.filter((c) => c.class !== this.data.spaces);
    const all = queue.length;
    let done = 0;
    const work = async () => {
      for (let chunk; (chunk = queue.shift());) {
        await this.add(base, chunk);
        progress(++done, all);
      }
    };
    await Promise.all(Array.from({ length: PARALLEL }, work));
    this.batches.finish();
  }

  /** Rooms are fetched only when somebody wants to see them. */
  async loadSpaces(base) {
    if (this.spacesLoaded) return;
    this.spacesLoaded = true;
    for (const chunk of this.data.chunks.filter((c) => c.class === this.data.spaces)) await this.add(base, chunk);
    this.batches.finish();
  }

  async add(base, chunk) {
    const answer = await fetch(`${base}?handler=Chunk&hash=${chunk.hash}`);
    if (!answer.ok) throw new Error(`A part of the picture could not be fetched (${answer.status}).`);
    const buffer = await answer.arrayBuffer();
    const view = new DataView(buffer);
    this.origin ??= [view.getFloat64(0, true), view.getFloat64(8, true), 0];
    this.batches.take(readChunk(buffer, this.first[chunk.source], this.origin));
  }

  show(drawable) {
    if (drawable.isInstancedMesh) drawable.computeBoundingBox();
    else drawable.geometry.computeBoundingBox();
    this.states.reach.needsUpdate = true;
    this.boxes.union(drawable.boundingBox ?? drawable.geometry.boundingBox);
    drawable.matrixAutoUpdate = false;
    this.world.add(drawable);
    this.draw();
  }

  resize() {
    const { clientWidth: w, clientHeight: h } = this.canvas.parentElement;
    if (!w || !h) return;
    this.renderer.setSize(w, h, false);
    this.camera.aspect = w / h;
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  /** Draws once in the next frame, however often asked: nothing runs while nothing changes. */
  draw() {
    if (this.waiting) return;
    this.waiting = requestAnimationFrame(() => {
      this.waiting = 0;
      this.uniforms.eye.value.copy(this.camera.position);
      this.renderer.render(this.world, this.camera);
    });
  }

  setCut(low, high) {
    this.uniforms.cut.value.set(low, high);
    this.draw();
  }

  /** What stands at a point of the canvas: `{ element, point }`, or null. One pixel is drawn, no list is searched. */
  pick(x, y) {
    const { clientWidth: w, clientHeight: h } = this.canvas;
    this.camera.setViewOffset(w, h, x, y, 1, 1);
    this.world.overrideMaterial = this.identifying;
    this.renderer.setRenderTarget(this.target);
    const colour = this.renderer.getClearColor(new THREE.Color()), alpha = this.renderer.getClearAlpha();
    this.renderer.setClearColor(0, 0);
    this.renderer.clear();
    this.renderer.render(this.world, this.camera);
    const pixel = new Float32Array(4);
    this.renderer.readRenderTargetPixels(this.target, 0, 0, 1, 1, pixel);
    this.renderer.setRenderTarget(null);
    this.renderer.setClearColor(colour, alpha);
    this.world.overrideMaterial = null;
    this.camera.clearViewOffset();
    if (pixel[3] < 0.5) return null;
    return { element: Math.round(pixel[3]) - 1, point: new THREE.Vector3(pixel[0], pixel[1], pixel[2]) };
  }

  /** Calls `visit(point)` for each vertex of an element, in the view's metres. */
  vertices(element, visit) {
    const p = new THREE.Vector3(), m = new THREE.Matrix4();
    for (const drawable of this.world.children) {
      const position = drawable.geometry?.attributes.position;
      const { runs, instances } = drawable.userData;
      if (runs) {
        for (const run of runs) {
          if (run.element !== element) continue;
          for (let i = run.start; i < run.start + run.count; i++) visit(p.fromBufferAttribute(position, drawable.geometry.index.getX(i)).applyMatrix4(drawable.matrixWorld));
        }
      } else if (instances) {
        instances.forEach((e, i) => {
          if (e !== element) return;
          drawable.getMatrixAt(i, m);
          for (let v = 0; v < position.count; v++) visit(p.fromBufferAttribute(position, v).applyMatrix4(m));
        });
      }
    }
  }

  boxOf(element) {
    const box = new THREE.Box3();
    this.vertices(element, (p) => box.expandByPoint(p));
    return box;
  }

  /** Moves the camera until a box fills the free part of the picture; keeps the direction of view. */
  fit(box = this.boxes, direction = null) {
    if (box.isEmpty()) return;
    const sphere = box.getBoundingSphere(new THREE.Sphere());
    const from = direction ?? this.camera.position.clone().sub(this.controls.target).normalize();
    const free = Math.min(1, (this.canvas.clientWidth - 240) / this.canvas.clientWidth * this.camera.aspect);
    const distance = Math.max(1, sphere.radius) / Math.sin((this.camera.fov / 2) * Math.PI / 180) / Math.max(0.4, free) * 0.86;
    this.controls.target.copy(sphere.center);
    this.camera.position.copy(sphere.center).addScaledVector(from, distance);
    this.camera.near = Math.max(0.05, distance / 1000);
    this.camera.far = distance + sphere.radius * 20 + 500;
    this.camera.updateProjectionMatrix();
    this.controls.update();
    this.draw();
  }

  get drawCalls() { return this.renderer.info.render.calls; }
}
