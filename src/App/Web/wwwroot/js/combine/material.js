// The one material of the view: flat-shaded, an element's state from a texture, cut between two heights.
import * as THREE from 'three';

export const WIDTH = 1024;

/** Numbers of colours beyond those of the parties; common practice: green for what is new, red for what is gone. */
export const PALETTE = { parties: 8, added: 8, changed: 9, removed: 10, rest: 11, own: 12, all: 24 };
const CHANGES = ['#1a7f37', '#d97a00', '#b3261e', '#cfc9bd'];

/**
 * State of every element in textures. `texture`: red 255 shown, green 255 picked, blue its colour's number;
 * `reach`: the heights of its lowest and highest point.
 */
export class ElementStates {
  /** @param {number} count */
  constructor(count) {
    const rows = Math.max(1, Math.ceil(count / WIDTH));
    this.data = new Uint8Array(WIDTH * rows * 4);
    this.texture = new THREE.DataTexture(this.data, WIDTH, rows, THREE.RGBAFormat, THREE.UnsignedByteType);
    this.heights = new Float32Array(WIDTH * rows * 2).map((_, i) => (i % 2 ? -Infinity : Infinity));
    this.reach = new THREE.DataTexture(this.heights, WIDTH, rows, THREE.RGFormat, THREE.FloatType);
    this.changed();
    this.reach.needsUpdate = true;
  }

  /**
   * @param {number} element
   * @param {boolean} shown
   */
  show(element, shown) {
    this.data[4 * element] = shown ? 255 : 0;
  }

  /**
   * @param {number} element
   * @param {boolean} picked
   */
  pick(element, picked) {
    this.data[4 * element + 1] = picked ? 255 : 0;
  }

  /**
   * @param {number} element
   * @param {number} number of the palette
   */
  colour(element, number) {
    this.data[4 * element + 2] = number;
  }

  /**
   * Widens what is known of an element's heights; `reach.needsUpdate` sends it on.
   * @param {number} element
   * @param {number} low
   * @param {number} high
   */
  reaches(element, low, high) {
    this.heights[2 * element] = Math.min(this.heights[2 * element], low);
    this.heights[2 * element + 1] = Math.max(this.heights[2 * element + 1], high);
  }

  changed() {
    this.texture.needsUpdate = true;
  }
}

const vertex = /* glsl */ `
  in int element;
  uniform sampler2D states;
  uniform sampler2D reach;
  uniform vec3 palette[${PALETTE.all}];
  uniform vec2 cut;
  out vec3 tint;
  out vec3 world;
  flat out int number;
  flat out float strength;
  void main() {
    ivec2 texel = ivec2(element % ${WIDTH}, element / ${WIDTH});
    vec4 state = texelFetch(states, texel, 0);
    vec2 heights = texelFetch(reach, texel, 0).rg;
    // An element beyond the cut is left out whole: a pixel's own height, guessed on a triangle seen edge-on, would leave dots of it.
    bool drawn = state.r > 0.5 && heights.y >= cut.x && heights.x <= cut.y;
    int hue = int(state.b * 255.0 + 0.5);
    #ifndef EDGES
      // What did not change is drawn by its edges alone, or it would hide what did.
      drawn = drawn && hue != ${PALETTE.rest};
    #endif
    mat4 place = modelMatrix;
    #ifdef USE_INSTANCING
      place = place * instanceMatrix;
    #endif
    vec4 at = place * vec4(position, 1.0);
    world = at.xyz;
    number = element;
    strength = hue == ${PALETTE.rest} ? 0.13 : 1.0;
    tint = state.g > 0.5 ? vec3(0.97, 0.86, 0.12) : palette[hue];
    gl_Position = drawn ? projectionMatrix * viewMatrix * at : vec4(2.0, 2.0, 2.0, 1.0);
  }`;

/** Planes that cut beside the heights, as in ViewDocument. */
const PLANES = 6;

const cut = /* glsl */ `
    if (world.z < cut.x || world.z > cut.y) discard;
    for (int i = 0; i < ${PLANES}; i++) if (dot(world, planes[i].xyz) > planes[i].w) discard;`;

const shade = /* glsl */ `
  in vec3 tint;
  in vec3 world;
  flat in int number;
  uniform vec2 cut;
  uniform vec4 planes[${PLANES}];
  uniform vec3 eye;
  out vec4 colour;
  void main() {
    ${cut}
    // A triangle thinner than a pixel has no slope to measure; without the floor its pixels would be black.
    vec3 n = cross(dFdx(world), dFdy(world));
    n = dot(n, n) > 1e-20 ? normalize(n) : vec3(0.0, 0.0, 1.0);
    if (dot(n, eye - world) < 0.0) n = -n;
    float light = 0.62 + 0.26 * n.z + 0.16 * dot(n, normalize(vec3(0.5, -0.8, 0.2)));
    colour = vec4(mix(tint, vec3(1.0), 0.3) * light, 1.0);
  }`;

// The edges between faces: the body's own colour, dark.
const line = /* glsl */ `
  in vec3 tint;
  in vec3 world;
  flat in float strength;
  uniform vec2 cut;
  uniform vec4 planes[${PLANES}];
  out vec4 colour;
  void main() { ${cut} colour = vec4(tint * 0.55, strength); }`;

// Where and what: position in the view's metres, element number + 1.
const identify = /* glsl */ `
  in vec3 tint;
  in vec3 world;
  flat in int number;
  uniform vec2 cut;
  uniform vec4 planes[${PLANES}];
  out vec4 colour;
  void main() { ${cut} colour = vec4(world, float(number + 1)); }`;

/**
 * @param {ElementStates} states
 * @param {string[]} parties their colours
 */
export function createMaterials(states, parties) {
  const own = Array.from({ length: PALETTE.parties }, (_, i) => parties[i] ?? '#999999');
  const free = Array.from({ length: PALETTE.all - PALETTE.own }, () => '#999999');
  const palette = [...own, ...CHANGES, ...free].map((colour) =>
    new THREE.Color().setStyle(colour, THREE.LinearSRGBColorSpace),
  );
  const uniforms = {
    states: { value: states.texture },
    reach: { value: states.reach },
    palette: { value: palette },
    cut: { value: new THREE.Vector2(-1e9, 1e9) },
    // A direction and how far along it what is left reaches; without one, nothing is cut.
    planes: { value: Array.from({ length: PLANES }, () => new THREE.Vector4(0, 0, 0, 1)) },
    eye: { value: new THREE.Vector3() },
  };
  /**
   * @param {string} fragmentShader
   * @param {THREE.ShaderMaterialParameters} more
   */
  const make = (fragmentShader, more = {}) =>
    new THREE.ShaderMaterial({
      uniforms,
      vertexShader: vertex,
      fragmentShader,
      glslVersion: THREE.GLSL3,
      side: THREE.DoubleSide,
      ...more,
    });
  // Faces are back by a hair, so that the edges on them are seen whole.
  const shaded = make(shade, { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 });
  const lines = { transparent: true, depthWrite: false };
  const edges = make(line, { ...lines, defines: { EDGES: '' } });
  const instancedEdges = make(line, { ...lines, defines: { EDGES: '', USE_INSTANCING: '' } });
  return { uniforms, shaded, identifying: make(identify), edges, instancedEdges };
}
