// The building: chunks fetched as needed, one state for every element, one material.
import * as THREE from 'three';
import { OrbitControls } from 'three/addons/OrbitControls.js';
import { USUAL_DEGREES, ViewCamera } from './camera.js';
import { Batches } from './batch.js';
import { Detail } from './detail.js';
import { ElementStates, PALETTE, createMaterials } from './material.js';

/** @typedef {import('./view-state.js').Point} Point */
/**
 * @typedef {object} SourceData
 * @property {string | null} id
 * @property {string} label
 * @property {string} colour
 * @property {number} elements how many
 * @property {number[]} frame into the job's, three axes and an origin
 * @property {string} [picture] the version of its geometry
 * @property {boolean} [past] an older revision, of which only what was removed is shown
 */
/** @typedef {{ source: number, hash: string, triangles: number, storey: number, class: number }} ChunkData */
/**
 * What the server says of a job.
 * @typedef {object} SceneData
 * @property {SourceData[]} sources
 * @property {{ name: string, elevation: number }[]} rungs the level schedule, lowest first, metres in the job frame
 * @property {ChunkData[]} chunks
 * @property {Record<import('./view-state.js').Kind, string[]>} names
 * @property {import('../length.js').Notation} notation how the reader wants lengths
 * @property {import('./sheets.js').SheetData[]} sheets drawings that are placed
 * @property {number} spaces the number of the class of rooms
 * @property {import('./topics.js').TopicData[]} topics open ones that look at a point
 */

export class Building {
  /**
   * @param {HTMLCanvasElement} canvas
   * @param {SceneData} scene
   * @param {import('./element-numbers.js').ElementNumbers} elements
   */
  constructor(canvas, scene, elements) {
    this.canvas = canvas;
    this.host = /** @type {HTMLElement} */ (canvas.parentElement);
    this.data = scene;
    this.first = elements.first;
    /** Storey, class and layer of each element, as numbers. */
    this.columns = new Uint16Array(elements.total * 3);
    this.states = new ElementStates(elements.total);
    this.elements = elements;
    for (let e = 0; e < elements.total; e++) this.uncolour(e);
    const materials = createMaterials(
      this.states,
      scene.sources.map((s) => s.colour),
    );
    this.uniforms = materials.uniforms;
    this.identifying = materials.identifying;
    this.renderer = new THREE.WebGLRenderer({
      canvas,
      antialias: !navigator.webdriver,
      alpha: true,
      preserveDrawingBuffer: true,
    });
    this.renderer.outputColorSpace = THREE.LinearSRGBColorSpace;
    this.renderer.setPixelRatio(Math.min(devicePixelRatio, 2));
    this.world = new THREE.Scene();
    /** Lines; what lies under a point is asked of faces alone. */
    this.edges = new THREE.Group();
    this.world.add(this.edges);
    this.detail = new Detail(this.renderer, this.world, this.edges);
    this.camera = new ViewCamera(USUAL_DEGREES, 1, 0.1, 5000);
    this.camera.up.set(0, 0, 1);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.addEventListener('change', () => this.draw());
    this.target = new THREE.WebGLRenderTarget(1, 1, {
      type: THREE.FloatType,
      format: THREE.RGBAFormat,
      minFilter: THREE.NearestFilter,
      magFilter: THREE.NearestFilter,
    });
    this.boxes = new THREE.Box3();
    this.batches = new Batches(materials, this.states, (drawable) => this.show(drawable));
    /** @type {Point | null} */
    this.origin = null;
    this.waiting = 0;
    /** The frame that draws the next slice. */
    this.finishing = 0;
    /** @type {(() => void)[]} called after each picture */
    this.drawn = [];
    new ResizeObserver(() => this.resize()).observe(this.host);
    this.resize();
  }

  /** Where the picture's own zero is, metres in the job frame: single precision would tremble far from zero. */
  get offset() {
    return this.origin ?? [0, 0, 0];
  }

  /** @param {THREE.Mesh | THREE.LineSegments} drawable */
  show(drawable) {
    drawable.matrixAutoUpdate = false;
    if (drawable instanceof THREE.LineSegments) {
      this.edges.add(drawable);
      this.draw();
      return;
    }
    const owner = drawable instanceof THREE.InstancedMesh ? drawable : drawable.geometry;
    owner.computeBoundingBox();
    this.states.reach.needsUpdate = true;
    if (owner.boundingBox) this.boxes.union(owner.boundingBox);
    this.world.add(drawable);
    this.detail.added(drawable);
    this.draw();
  }

  resize() {
    const { clientWidth: w, clientHeight: h } = this.host;
    if (!w || !h) return;
    this.renderer.setSize(w, h, false);
    this.detail.resized();
    this.camera.aspect = w / h;
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  /** Draws once in the next frame, however often asked: nothing runs while nothing changes. A large building is finished in the frames
   * that follow, as long as nothing else is asked for. */
  draw() {
    if (this.waiting) return;
    cancelAnimationFrame(this.finishing);
    this.waiting = requestAnimationFrame(() => {
      this.waiting = 0;
      this.look();
      this.detail.begin(this.camera);
      for (const follow of this.drawn) follow();
      if (this.detail.rest.length) this.finishing = requestAnimationFrame(() => this.finish());
    });
  }

  finish() {
    if (this.detail.next(this.camera)) this.finishing = requestAnimationFrame(() => this.finish());
  }

  /** Draws the whole picture now, for whoever copies it. */
  drawWhole() {
    this.look();
    this.detail.whole(this.camera);
  }

  /** Draws what is seen while something moves, now. */
  move() {
    this.look();
    this.detail.moving(this.camera);
  }

  look() {
    this.camera.follow(this.controls.target);
    this.camera.eyeInto(this.uniforms.eye.value);
  }

  /**
   * Shows only what lies between two heights of the picture.
   * @param {number} low
   * @param {number} high
   */
  setCut(low, high) {
    this.uniforms.cut.value.set(low, high);
    this.draw();
  }

  /**
   * Cuts with planes beside the heights.
   * @param {number[][]} planes a point, metres in the job frame, and a direction to what is cut away
   */
  setPlanes(planes) {
    const zero = new THREE.Vector3(...this.offset);
    this.uniforms.planes.value.forEach((value, i) => {
      const plane = planes[i];
      if (!plane) {
        value.set(0, 0, 0, 1);
        return;
      }
      const direction = new THREE.Vector3(plane[3], plane[4], plane[5]).normalize();
      const at = new THREE.Vector3(plane[0], plane[1], plane[2]).sub(zero);
      value.set(direction.x, direction.y, direction.z, direction.dot(at));
    });
    this.draw();
  }

  /**
   * Gives elements colours of their own.
   * @param {{ colour: string, elements: number[] }[]} colours
   */
  paint(colours) {
    colours.slice(0, PALETTE.all - PALETTE.own).forEach(({ colour, elements }, i) => {
      this.uniforms.palette.value[PALETTE.own + i].setStyle(`#${colour}`, THREE.LinearSRGBColorSpace);
      for (const element of elements) this.states.colour(element, PALETTE.own + i);
    });
    this.states.changed();
    this.draw();
  }

  /**
   * Gives an element its source's colour.
   * @param {number} element
   */
  uncolour(element) {
    this.states.colour(element, Math.min(this.elements.sourceOf(element), PALETTE.parties - 1));
  }

  /** @returns {import('./view-state.js').Camera} metres in the job frame */
  cameraDocument() {
    /** @param {THREE.Vector3} v */
    const job = (v) => /** @type {Point} */ (v.toArray().map((c, i) => c + this.offset[i]));
    return { eye: job(this.camera.position), at: job(this.controls.target), ...this.camera.lens(this.controls.target) };
  }

  /** @param {import('./view-state.js').Camera} camera metres in the job frame */
  lookAs(camera) {
    const [x, y, z] = this.offset,
      zero = new THREE.Vector3(x, y, z);
    this.fit();
    this.camera.position.set(...camera.eye).sub(zero);
    this.controls.target.set(...camera.at).sub(zero);
    this.camera.take(camera, this.controls.target);
    this.controls.update();
    this.draw();
  }

  /**
   * What is at a point of the canvas: `{ element, point }`, or null. One pixel is drawn, no list is searched.
   * @param {number} x
   * @param {number} y
   */
  pick(x, y) {
    const { clientWidth: w, clientHeight: h } = this.canvas;
    this.camera.follow(this.controls.target);
    this.camera.setViewOffset(w, h, x, y, 1, 1);
    this.world.overrideMaterial = this.identifying;
    this.edges.visible = false;
    this.renderer.setRenderTarget(this.target);
    const colour = this.renderer.getClearColor(new THREE.Color()),
      alpha = this.renderer.getClearAlpha();
    this.renderer.setClearColor(0, 0);
    this.renderer.clear();
    this.renderer.render(this.world, this.camera);
    const pixel = new Float32Array(4);
    this.renderer.readRenderTargetPixels(this.target, 0, 0, 1, 1, pixel);
    this.renderer.setRenderTarget(null);
    this.renderer.setClearColor(colour, alpha);
    this.world.overrideMaterial = null;
    this.edges.visible = true;
    this.camera.clearViewOffset();
    if (pixel[3] < 0.5) return null;
    return { element: Math.round(pixel[3]) - 1, point: new THREE.Vector3(pixel[0], pixel[1], pixel[2]) };
  }

  /**
   * Calls `visit(point)` for each vertex of an element, in the view's metres.
   * @param {number} element
   * @param {(point: THREE.Vector3) => void} visit
   */
  vertices(element, visit) {
    const p = new THREE.Vector3(),
      m = new THREE.Matrix4();
    for (const drawable of this.world.children) {
      if (!(drawable instanceof THREE.Mesh)) continue;
      const { position } = drawable.geometry.attributes,
        { runs, instances } = drawable.userData;
      for (const run of runs ?? []) {
        if (run.element !== element) continue;
        for (let i = run.start; i < run.start + run.count; i++) {
          visit(p.fromBufferAttribute(position, drawable.geometry.index.getX(i)).applyMatrix4(drawable.matrixWorld));
        }
      }
      if (!(drawable instanceof THREE.InstancedMesh)) continue;
      for (let i = 0; i < instances.length; i++) {
        if (instances[i] !== element) continue;
        drawable.getMatrixAt(i, m);
        for (let v = 0; v < position.count; v++) visit(p.fromBufferAttribute(position, v).applyMatrix4(m));
      }
    }
  }

  /** @param {number} element */
  boxOf(element) {
    const box = new THREE.Box3();
    this.vertices(element, (p) => box.expandByPoint(p));
    return box;
  }

  /**
   * Moves the camera until a box fills the free part of the picture.
   * @param {THREE.Box3} box
   * @param {THREE.Vector3 | null} direction null: the direction of view is kept
   */
  fit(box = this.boxes, direction = null) {
    if (box.isEmpty()) return;
    const sphere = box.getBoundingSphere(new THREE.Sphere());
    const from = direction ?? this.camera.position.clone().sub(this.controls.target).normalize();
    const free = Math.min(1, ((this.canvas.clientWidth - 240) / this.canvas.clientWidth) * this.camera.aspect);
    const distance =
      (Math.max(1, sphere.radius) / Math.sin(((this.camera.fov / 2) * Math.PI) / 180) / Math.max(0.4, free)) * 0.86;
    this.controls.target.copy(sphere.center);
    this.camera.position.copy(sphere.center).addScaledVector(from, distance);
    this.camera.near = Math.max(0.05, distance / 1000);
    this.camera.far = distance + sphere.radius * 20 + 500;
    this.camera.updateProjectionMatrix();
    this.controls.update();
    this.draw();
  }

  get drawCalls() {
    return this.renderer.info.render.calls;
  }
}
