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
  KeepStencilOp,
  LessEqualDepth,
  ShaderMaterial,
  type Side,
  Vector3,
} from 'three';

/** What all materials of the scene share. */
export interface LightUniforms {
  /** Unit vector towards the sun. */
  sun: { value: Vector3 };
  /** What remains of a surface's tone in shade. */
  shade: { value: Vector3 };
  /** How far along the rays bodies of shade are stretched, metres: beyond everything they could meet. */
  reach: { value: number };
}

const SOLID_VERTEX = /* glsl */ `
  attribute vec3 color;
  varying vec3 tone;
  varying vec3 facing;
  void main() {
    tone = color;
    facing = normal;
    gl_Position = projectionMatrix * (modelViewMatrix * vec4(position, 1.0));
  }`;

/** Every surface as it is in shade, with a little modelling by where it faces. Tones are displayed values throughout. */
export function shadedMaterial(light: LightUniforms, side: Side = DoubleSide): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { shade: light.shade },
    vertexShader: SOLID_VERTEX,
    fragmentShader: /* glsl */ `
      uniform vec3 shade;
      varying vec3 tone;
      varying vec3 facing;
      void main() {
        vec3 n = gl_FrontFacing ? facing : -facing;
        gl_FragColor = vec4(tone * shade * (0.9 + 0.1 * n.z + 0.04 * n.x), 1.0);
      }`,
    side,
  });
}

/** What the sun adds where no body of shade lies: drawn where the stencil has counted none. */
export function sunlitMaterial(light: LightUniforms, side: Side = DoubleSide): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { sun: light.sun, shade: light.shade },
    vertexShader: SOLID_VERTEX,
    fragmentShader: /* glsl */ `
      uniform vec3 sun;
      uniform vec3 shade;
      varying vec3 tone;
      varying vec3 facing;
      void main() {
        vec3 n = gl_FrontFacing ? facing : -facing;
        float square = dot(n, sun);
        vec3 dark = tone * shade * (0.9 + 0.1 * n.z + 0.04 * n.x);
        vec3 lit = tone * mix(0.84 + 0.16 * square, 1.0, smoothstep(0.6, 1.0, n.z));
        gl_FragColor = vec4(max(lit - dark, vec3(0.0)) * smoothstep(0.0, 0.05, square), 1.0);
      }`,
    side,
    blending: AdditiveBlending,
    transparent: true,
    depthWrite: false,
    depthFunc: LessEqualDepth,
    stencilWrite: true,
    stencilFunc: EqualStencilFunc,
    stencilRef: 0,
    stencilFail: KeepStencilOp,
    stencilZFail: KeepStencilOp,
    stencilZPass: KeepStencilOp,
  });
}

/** One side of the bodies of shade, counting into the stencil where it lies behind what is seen. */
export function volumeMaterial(
  light: LightUniforms,
  side: typeof FrontSide | typeof BackSide,
): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { sun: light.sun, reach: light.reach },
    vertexShader: /* glsl */ `
      uniform vec3 sun;
      uniform float reach;
      void main() {
        // Lit faces stay, but a little way behind themselves so that they do not shade themselves: nearly all by the
        // same way, those that the sun only grazes farther along its rays. The folds keep the body closed. The others
        // go with the rays.
        float square = dot(normal, sun);
        float behind = clamp(0.012 / max(sun.z, 0.001), 0.025, 0.15);
        if (square < 0.12) behind = 0.3;
        float along = square > 0.0 ? behind : reach;
        gl_Position = projectionMatrix * (modelViewMatrix * vec4(position - along * sun, 1.0));
      }`,
    fragmentShader: 'void main() { gl_FragColor = vec4(0.0); }',
    side,
    colorWrite: false,
    depthWrite: false,
    stencilWrite: true,
    stencilFunc: AlwaysStencilFunc,
    stencilFail: KeepStencilOp,
    stencilZFail: side === BackSide ? IncrementWrapStencilOp : DecrementWrapStencilOp,
    stencilZPass: KeepStencilOp,
  });
}

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
