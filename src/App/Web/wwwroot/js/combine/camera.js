// The camera of the combined view: in perspective, or parallel at the same distance, so that everything else need not know which.
import * as THREE from 'three';

/** The usual vertical field of view, degrees; as in ViewDocument. */
export const USUAL_DEGREES = 38;

/** Straight down or up there is no side: the camera leans this much of its distance towards its upper side. */
const LEAN = 1e-5;

export class ViewCamera extends THREE.PerspectiveCamera {
  /** Whether the view is parallel; what it shows at its target is as high as in perspective. */
  parallel = false;

  /** Metres from the eye to what it looks at. */
  reach = 10;

  /** Metres that the view shows at its target. */
  get height() {
    return 2 * this.reach * Math.tan((this.fov * Math.PI) / 360);
  }

  /**
   * A parallel view shows more when its eye goes back.
   * @param {THREE.Vector3} target
   */
  follow(target) {
    const reach = this.position.distanceTo(target);
    if (reach === this.reach) return;
    this.reach = reach;
    if (this.parallel) this.updateProjectionMatrix();
  }

  /** @override */
  updateProjectionMatrix() {
    if (!this.parallel) {
      super.updateProjectionMatrix();
      return;
    }
    const high = this.height / this.zoom,
      wide = high * this.aspect,
      { view } = this;
    let [left, right, top, bottom] = [-wide / 2, wide / 2, high / 2, -high / 2];
    if (view?.enabled) {
      const [w, h] = [wide / view.fullWidth, high / view.fullHeight];
      left += w * view.offsetX;
      right = left + w * view.width;
      top -= h * view.offsetY;
      bottom = top - h * view.height;
    }
    // What is behind the eye is seen too: a parallel view has no eye.
    this.projectionMatrix.makeOrthographic(
      left,
      right,
      top,
      bottom,
      this.near - this.far,
      this.far,
      this.coordinateSystem,
    );
    this.projectionMatrixInverse.copy(this.projectionMatrix).invert();
  }

  /**
   * Where light comes to: far behind a parallel view.
   * @param {THREE.Vector3} into
   */
  eyeInto(into) {
    into.copy(this.position);
    if (this.parallel) into.addScaledVector(this.getWorldDirection(new THREE.Vector3()), -1e5);
  }

  /** @param {boolean} parallel */
  setParallel(parallel) {
    this.parallel = parallel;
    this.updateProjectionMatrix();
  }

  /**
   * What a document says beside eye and target; nothing where it is as usual.
   * @param {THREE.Vector3} target
   * @returns {{ up?: [number, number, number], degrees?: number, height?: number }}
   */
  lens(target) {
    this.follow(target);
    const up = new THREE.Vector3(0, 1, 0).applyQuaternion(this.quaternion);
    const steep = Math.hypot(up.x, up.y) > 0.999;
    return {
      ...(steep ? { up: /** @type {[number, number, number]} */ (up.toArray()) } : {}),
      ...(this.parallel ? { height: this.height } : {}),
      ...(!this.parallel && this.fov !== USUAL_DEGREES ? { degrees: this.fov } : {}),
    };
  }

  /**
   * Takes what a document says; eye and target are in place already.
   * @param {import('./view-state.js').Camera} wanted
   * @param {THREE.Vector3} target
   */
  take({ up, degrees, height }, target) {
    this.fov = degrees ?? USUAL_DEGREES;
    this.parallel = height !== undefined;
    const back = this.position.clone().sub(target).normalize();
    if (height) {
      // The eye of a parallel view goes where that much is seen; what is seen does not change.
      this.reach = height / (2 * Math.tan((this.fov * Math.PI) / 360));
      this.position.copy(target).addScaledVector(back, this.reach);
    }
    this.reach = this.position.distanceTo(target);
    if (up && Math.hypot(back.x, back.y) < LEAN)
      this.position.addScaledVector(new THREE.Vector3(...up), -this.reach * LEAN * Math.sign(back.z || 1));
    this.updateProjectionMatrix();
  }
}
