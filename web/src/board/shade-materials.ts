import {
  AdditiveBlending,
  AlwaysStencilFunc,
  BackSide,
  Color,
  DecrementWrapStencilOp,
  DoubleSide,
  EqualStencilFunc,
  FrontSide,
  IncrementWrapStencilOp,
  InvertStencilOp,
  KeepStencilOp,
  LessEqualDepth,
  ShaderMaterial,
  type Side,
  Vector3,
  Vector4,
} from 'three';

/** Bits of the stencil: bodies of shade are counted in these … */
const COUNT_BITS = 0x7f;
/**
 * … and this one is turned over where the sun has been added, so that of two faces in one place (a parapet, a fence without
 * thickness) only one is lit: each step adds light where it is as the step before has left it.
 */
const LIT_BIT = 0x80;

/** What the stencil must hold where a step adds light, after so many steps that were drawn before it. */
export const litReference = (stepsBefore: number): number => (stepsBefore % 2 ? LIT_BIT : 0);

/** What all materials of the scene share. */
export interface LightUniforms {
  /** Unit vector towards the sun. */
  sun: { value: Vector3 };
  /** What remains of a surface's tone in shade. */
  shade: { value: Vector3 };
  /** Plane a little below the ground (normal · p = w), down to which bodies of shade are stretched. */
  below: { value: Vector4 };
  /** What part of the usual way faces turned to the sun are moved: less where the eye is near and depth is fine. */
  near: { value: number };
  /** 1 where all surfaces are white, 0 where each has its own tone. */
  white: { value: number };
  /** What of the sun is added before, between and after the bodies of shade of crowns and of glass; sums to 1. */
  steps: [{ value: number }, { value: number }, { value: number }];
}

const SOLID_VERTEX = /* glsl */ `
  uniform float white;
  attribute vec3 color;
  attribute float hole;
  varying vec3 tone;
  varying vec3 facing;
  varying float open;
  void main() {
    open = hole;
    tone = mix(color, vec3(0.985), white);
    facing = normal;
    gl_Position = projectionMatrix * (modelViewMatrix * vec4(position, 1.0));
  }`;

/** Leaves out so many of sixteen dots as a screen is open, evenly (Bayer 1973): what stands behind it is seen through it. */
const SCREEN_HOLES = /* glsl */ `
  varying float open;
  float bayer2(vec2 p) { p = floor(p); return fract(p.x / 2.0 + p.y * p.y * 0.75); }
  void cutHoles() {
    if (open <= 0.0) return;
    vec2 p = gl_FragCoord.xy;
    if (bayer2(0.5 * p) * 0.25 + bayer2(p) < open) discard;
  }`;

/** Every surface as it is in shade, with a little modelling by where it faces. Tones are displayed values throughout. */
function shadedMaterial(light: LightUniforms, side: Side = DoubleSide): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { shade: light.shade, white: light.white },
    vertexShader: SOLID_VERTEX,
    fragmentShader: /* glsl */ `
      uniform vec3 shade;
      varying vec3 tone;
      varying vec3 facing;
      ${SCREEN_HOLES}
      void main() {
        cutHoles();
        vec3 n = gl_FrontFacing ? facing : -facing;
        gl_FragColor = vec4(tone * shade * (0.9 + 0.1 * n.z + 0.04 * n.x), 1.0);
      }`,
    side,
  });
}

/** What the sun adds where no body of shade lies: drawn where the stencil has counted none. */
function sunlitMaterial(light: LightUniforms, step: 0 | 1 | 2, side: Side = DoubleSide): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { sun: light.sun, shade: light.shade, white: light.white, weight: light.steps[step] },
    vertexShader: SOLID_VERTEX,
    fragmentShader: /* glsl */ `
      uniform vec3 sun;
      uniform vec3 shade;
      uniform float weight;
      varying vec3 tone;
      varying vec3 facing;
      ${SCREEN_HOLES}
      void main() {
        cutHoles();
        vec3 n = gl_FrontFacing ? facing : -facing;
        float square = dot(n, sun);
        vec3 dark = tone * shade * (0.9 + 0.1 * n.z + 0.04 * n.x);
        vec3 lit = tone * mix(0.84 + 0.16 * square, 1.0, smoothstep(0.6, 1.0, n.z));
        gl_FragColor = vec4(max(lit - dark, vec3(0.0)) * smoothstep(0.0, 0.05, square) * weight, 1.0);
      }`,
    side,
    blending: AdditiveBlending,
    transparent: true,
    depthWrite: false,
    depthFunc: LessEqualDepth,
    stencilWrite: true,
    stencilFunc: EqualStencilFunc,
    stencilRef: 0,
    stencilWriteMask: LIT_BIT,
    stencilFail: KeepStencilOp,
    stencilZFail: KeepStencilOp,
    stencilZPass: InvertStencilOp,
  });
}

/**
 * How far a corner of a body of shade is moved along the rays of the sun, metres; the vertex shader says the same. Faces
 * turned to the sun stay, but a little way behind themselves so that they do not shade themselves, and all by the same way:
 * if some went farther, the body would have corners in the middle of edges, through which single samples slip. The
 * others go with the rays down to a plane a little below the ground, and no farther: what lies outside of the picture is
 * cut off by rounding, and single samples slip there too.
 * @param square cosine between the normal of the face and the way to the sun
 * @param downM way along the rays down to the plane
 */
export function shadeShiftM(square: number, sunZ: number, downM: number): number {
  const behind = Math.min(0.15, Math.max(0.05, 0.012 / Math.max(sunZ, 0.001)));
  return square > 0 ? behind : Math.min(4000, Math.max(behind, downM));
}

/** One side of the bodies of shade, counting into the stencil where it lies behind what is seen. */
function volumeMaterial(
  light: LightUniforms,
  side: typeof FrontSide | typeof BackSide,
  isLate: boolean,
  slopes: number,
): ShaderMaterial {
  return new ShaderMaterial({
    // What comes after light was added is drawn in its turn among what is not opaque.
    transparent: isLate,
    uniforms: { sun: light.sun, below: light.below, near: light.near },
    vertexShader: /* glsl */ `
      uniform vec3 sun;
      uniform vec4 below;
      uniform float near;
      void main() {
        float behind = near * clamp(0.012 / max(sun.z, 0.001), 0.05, 0.15);
        float down = (dot(below.xyz, position) - below.w) / max(dot(below.xyz, sun), 0.001);
        float along = dot(normal, sun) > 0.0 ? behind : clamp(down, behind, 4000.0);
        gl_Position = projectionMatrix * (modelViewMatrix * vec4(position - along * sun, 1.0));
      }`,
    fragmentShader: 'void main() { gl_FragColor = vec4(0.0); }',
    side,
    colorWrite: false,
    depthWrite: false,
    // Also a little farther from the eye: what the sun only grazes would shade itself within the precision of depth.
    polygonOffset: true,
    polygonOffsetFactor: slopes,
    polygonOffsetUnits: 24,
    stencilWrite: true,
    stencilWriteMask: COUNT_BITS,
    stencilFunc: AlwaysStencilFunc,
    stencilFail: KeepStencilOp,
    stencilZFail: side === BackSide ? IncrementWrapStencilOp : DecrementWrapStencilOp,
    stencilZPass: KeepStencilOp,
  });
}

/**
 * How much farther from the eye faces and folds of bodies of shade are taken to lie, in what they fall away within a pixel. A
 * sample may lie half a pixel off what covers it: faces, which lie close behind what is seen, go a whole one farther, or
 * single samples of theirs come before it. Folds may be seen edge on; a whole pixel of those is far.
 */
const SLOPES = { faces: 1, folds: 0.3 };

/** Materials of the faces and of the folds of bodies of shade. */
const volumeMaterials = (light: LightUniforms, side: typeof FrontSide | typeof BackSide, isLate: boolean) =>
  [SLOPES.faces, SLOPES.folds].map((slopes) => volumeMaterial(light, side, isLate, slopes));

/** Ink lines, drawn a little towards the eye so that the faces they bound do not eat them. */
export function lineMaterial(colour: string, opacity = 1, lift = 0.0012): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { ink: { value: new Color(colour) }, opacity: { value: opacity }, lift: { value: lift } },
    vertexShader: /* glsl */ `
      uniform float lift;
      void main() {
        vec4 seen = modelViewMatrix * vec4(position, 1.0);
        if (isOrthographic) seen.z += lift * 60.0;
        else seen.xyz *= 1.0 - lift;
        gl_Position = projectionMatrix * seen;
      }`,
    fragmentShader: /* glsl */ `
      uniform vec3 ink;
      uniform float opacity;
      void main() {
        gl_FragColor = vec4(ink, opacity);
        #include <colorspace_fragment>
      }`,
    transparent: true,
    depthWrite: false,
  });
}

/** Another colour for ink lines. */
export function setLineColour(material: ShaderMaterial, colour: string): void {
  (material.uniforms.ink!.value as Color).set(colour);
}

/** How much of what lies behind a pane is hidden by its own tone, and how much the sun adds on it. */
const PANE_TONE = 0.3;
const PANE_SUN = 0.45;

/** Panes that are seen through, with the shade that falls on them. Their own sides are seen from both. */
function paneMaterials(light: LightUniforms) {
  const depth = new ShaderMaterial({
    vertexShader: SOLID_VERTEX,
    uniforms: { white: light.white },
    fragmentShader: 'void main() { gl_FragColor = vec4(0.0); }',
    side: DoubleSide,
    colorWrite: false,
  });
  const shaded = new ShaderMaterial({
    uniforms: { shade: light.shade, white: light.white },
    vertexShader: SOLID_VERTEX,
    fragmentShader: /* glsl */ `
      uniform vec3 shade;
      varying vec3 tone;
      void main() { gl_FragColor = vec4(tone * shade, ${PANE_TONE.toFixed(2)}); }`,
    side: DoubleSide,
    transparent: true,
    depthWrite: false,
    depthFunc: LessEqualDepth,
  });
  const sunlit = sunlitMaterial(light, 2, DoubleSide);
  sunlit.fragmentShader = /* glsl */ `
    uniform vec3 sun;
    varying vec3 tone;
    varying vec3 facing;
    void main() {
      float square = abs(dot(facing, sun));
      gl_FragColor = vec4(tone * square * ${(PANE_TONE * PANE_SUN).toFixed(3)}, 1.0);
    }`;
  return { depth, shaded, sunlit };
}

const STEPS = [0, 1, 2] as const;

/** Everything that solids and their bodies of shade are drawn with. */
export function surfaceMaterials(light: LightUniforms) {
  return {
    shaded: shadedMaterial(light),
    sunlit: STEPS.map((step) => sunlitMaterial(light, step)),
    groundShaded: shadedMaterial(light, FrontSide),
    groundSunlit: STEPS.map((step) => sunlitMaterial(light, step, FrontSide)),
    fronts: volumeMaterials(light, FrontSide, false),
    backs: volumeMaterials(light, BackSide, false),
    lateFronts: volumeMaterials(light, FrontSide, true),
    lateBacks: volumeMaterials(light, BackSide, true),
    glass: paneMaterials(light),
  };
}
