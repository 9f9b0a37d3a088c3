// How much of a large building is drawn at once: what is large while something moves, all of it at rest, a slice a frame.
import * as THREE from 'three';

/** Triangles; smaller buildings are always drawn whole. */
const LARGE = 500_000,
  // What is drawn while something moves.
  MOVING = 60_000,
  // What is drawn in one more frame at rest.
  SLICE = 250_000,
  // A machine that takes longer for what moves draws no more than that, milliseconds.
  QUICK = 12;

/** @typedef {{ drawable: THREE.Mesh | THREE.LineSegments, start: number, count: number }} Part of a drawable's index */

/** @param {THREE.Mesh | THREE.LineSegments} drawable */
const corners = (drawable) => drawable.geometry.index?.count ?? 0;

/** @param {THREE.Mesh | THREE.LineSegments} drawable */
const places = (drawable) => {
  if (drawable instanceof THREE.InstancedMesh) return drawable.count;
  return drawable.geometry instanceof THREE.InstancedBufferGeometry ? drawable.geometry.instanceCount : 1;
};

/** @param {THREE.Mesh | THREE.LineSegments} drawable */
const cost = (drawable) => (corners(drawable) * places(drawable)) / 3;

export class Detail {
  /**
   * @param {THREE.WebGLRenderer} renderer keeps what it has drawn
   * @param {THREE.Scene} world whose meshes begin with what is largest
   * @param {THREE.Group} edges
   */
  constructor(renderer, world, edges) {
    this.renderer = renderer;
    this.world = world;
    this.edges = edges;
    this.triangles = 0;
    /** @type {boolean | null} null until it was tried */
    this.quick = null;
    /** @type {Part[]} what is still to be drawn */
    this.rest = [];
    /** Where the whole picture that is shown was seen from; none while it is not whole. */
    this.shown = '';
    this.seen = '';
    /** @type {Beside | null} where a picture from the same place is drawn until it is whole */
    this.beside = null;
    this.isBeside = false;
  }

  /** @returns {(THREE.Mesh | THREE.LineSegments)[]} */
  get drawables() {
    const lines = /** @type {THREE.LineSegments[]} */ (this.edges.children);
    return [...this.meshes, ...lines];
  }

  get meshes() {
    return this.world.children.filter((d) => d instanceof THREE.Mesh);
  }

  /** @param {THREE.Mesh} mesh one more */
  added(mesh) {
    this.triangles += cost(mesh);
  }

  /** Whether the building is drawn in slices. */
  get inSlices() {
    return this.triangles > LARGE && this.quick !== true;
  }

  /**
   * Draws the first picture of a view, and notes what is left of it.
   * @param {THREE.Camera} camera
   */
  begin(camera) {
    this.rest = [];
    if (!this.inSlices) {
      this.whole(camera);
      return;
    }
    camera.updateMatrixWorld();
    this.seen = `${camera.matrixWorld.elements} ${camera.projectionMatrix.elements}`;
    // Whoever picks or hides something goes on seeing the picture that is there until the new one is whole.
    this.isBeside = this.shown === this.seen;
    if (this.isBeside) {
      this.beside ??= new Beside(this.renderer);
      this.beside.clear();
    } else this.moving(camera);
    for (const mesh of this.meshes) this.leave(mesh, this.isBeside ? 0 : (mesh.userData.first ?? 0));
    for (const lines of /** @type {THREE.LineSegments[]} */ (this.edges.children)) this.leave(lines, 0);
  }

  /**
   * @param {THREE.Mesh | THREE.LineSegments} drawable
   * @param {number} drawn corners that are drawn already
   */
  leave(drawable, drawn) {
    const all = corners(drawable),
      // Whole triangles and whole lines.
      step = Math.max(6, 6 * Math.floor((SLICE * 3) / places(drawable) / 6));
    for (let start = drawn; start < all; start += step) {
      this.rest.push({ drawable, start, count: Math.min(step, all - start) });
    }
  }

  /**
   * Draws the next slice over what is drawn.
   * @param {THREE.Camera} camera
   * @returns {boolean} whether there is more
   */
  next(camera) {
    this.hide();
    let left = SLICE;
    while (left > 0) {
      const part = this.rest[0];
      // One part of a drawable a frame.
      if (!part || part.drawable.visible) break;
      this.rest.shift();
      part.drawable.visible = true;
      part.drawable.geometry.setDrawRange(part.start, part.count);
      left -= (part.count * places(part.drawable)) / 3;
    }
    this.renderer.autoClear = false;
    if (this.isBeside) this.beside?.draw(this.world, camera);
    else this.renderer.render(this.world, camera);
    this.renderer.autoClear = true;
    this.restore();
    if (this.rest.length) return true;
    if (this.isBeside) this.beside?.show();
    this.shown = this.seen;
    return false;
  }

  /**
   * Draws what is large alone, without edges: as long as something moves.
   * @param {THREE.Camera} camera
   */
  moving(camera) {
    const share = Math.min(1, MOVING / Math.max(1, this.triangles));
    this.shown = '';
    this.hide();
    for (const mesh of this.meshes) {
      mesh.userData.first = 3 * Math.ceil((corners(mesh) * share) / 3);
      mesh.visible = true;
      mesh.geometry.setDrawRange(0, mesh.userData.first);
    }
    this.renderer.render(this.world, camera);
    this.restore();
  }

  /**
   * Draws everything at once.
   * @param {THREE.Camera} camera
   */
  whole(camera) {
    this.rest = [];
    // Of a picture that was being drawn beside, no more than a part is there.
    this.isBeside = false;
    this.renderer.render(this.world, camera);
  }

  /**
   * Tries how long the machine takes, once everything has come.
   * @param {THREE.Camera} camera
   */
  measure(camera) {
    if (this.triangles <= LARGE) return;
    const gl = this.renderer.getContext(),
      pixel = new Uint8Array(4);
    const settle = () => gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, pixel);
    this.moving(camera);
    settle();
    const begun = performance.now();
    this.moving(camera);
    settle();
    this.quick = performance.now() - begun < QUICK;
  }

  /** The canvas has another size: nothing is on it. */
  resized() {
    this.shown = '';
    this.beside?.dispose();
    this.beside = null;
  }

  hide() {
    for (const drawable of this.drawables) drawable.visible = false;
  }

  restore() {
    for (const drawable of this.drawables) {
      drawable.visible = true;
      drawable.geometry.setDrawRange(0, Infinity);
    }
  }
}

/** A second picture, drawn beside the one that is shown and put in its place at once. */
class Beside {
  /** @param {THREE.WebGLRenderer} renderer */
  constructor(renderer) {
    this.renderer = renderer;
    const { width, height } = renderer.getDrawingBufferSize(new THREE.Vector2());
    this.target = new THREE.WebGLRenderTarget(width, height, {
      samples: renderer.getContext().getContextAttributes()?.antialias ? 4 : 0,
    });
    const material = new THREE.ShaderMaterial({
      uniforms: { picture: { value: this.target.texture } },
      vertexShader: 'varying vec2 at; void main() { at = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }',
      fragmentShader:
        'uniform sampler2D picture; varying vec2 at; void main() { gl_FragColor = texture2D(picture, at); }',
      blending: THREE.NoBlending,
      depthTest: false,
      depthWrite: false,
    });
    this.sheet = new THREE.Scene();
    this.face = new THREE.Mesh(new THREE.PlaneGeometry(2, 2), material);
    this.sheet.add(this.face);
    this.flat = new THREE.OrthographicCamera(-1, 1, 1, -1, 0, 1);
  }

  clear() {
    this.renderer.setRenderTarget(this.target);
    this.renderer.clear();
    this.renderer.setRenderTarget(null);
  }

  /**
   * @param {THREE.Scene} world
   * @param {THREE.Camera} camera
   */
  draw(world, camera) {
    this.renderer.setRenderTarget(this.target);
    this.renderer.render(world, camera);
    this.renderer.setRenderTarget(null);
  }

  show() {
    this.renderer.render(this.sheet, this.flat);
  }

  dispose() {
    this.target.dispose();
    this.face.geometry.dispose();
    this.face.material.dispose();
  }
}
