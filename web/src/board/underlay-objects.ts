import {
  type Ground,
  groundLevel,
  type Point2,
  type Scene,
  type Underlay,
  underlayCorners,
  underlayPixel,
} from '@dial-shade/core';
import {
  BufferAttribute,
  BufferGeometry,
  CustomBlending,
  DoubleSide,
  DstColorFactor,
  LinearMipmapLinearFilter,
  Mesh,
  NormalBlending,
  OneFactor,
  ShaderMaterial,
  Texture,
  ZeroFactor,
} from 'three';

/** How far pictures are held off the ground, metres; those that were laid later lie over earlier ones. */
const LIFT_M = 0.02;
/** After the light on the ground, before results. */
const ORDER = 3.5;
/** In the night theme paper is dimmed, so that it does not outshine what stands on it. */
const NIGHT_DIM = 0.62;

const textures = new Map<ImageBitmap, Texture>();
const materials = new Map<string, ShaderMaterial>();

/** Frees what pictures are drawn with: another project has others. */
export function forgetUnderlayTextures(): void {
  for (const texture of textures.values()) texture.dispose();
  for (const material of materials.values()) material.dispose();
  textures.clear();
  materials.clear();
}

/** One texture a picture, for all panes. */
function textureOf(image: ImageBitmap): Texture {
  let texture = textures.get(image);
  if (!texture) {
    texture = new Texture(image);
    // Rows of a decoded picture run from its top.
    texture.flipY = false;
    texture.minFilter = LinearMipmapLinearFilter;
    texture.anisotropy = 8;
    texture.needsUpdate = true;
    textures.set(image, texture);
  }
  return texture;
}

/** The material of a picture, kept while its project is open, so that fading it compiles nothing. */
function materialOf({ id }: Underlay, theme: 'light' | 'dark'): ShaderMaterial {
  const key = `${id}/${theme}`;
  let material = materials.get(key);
  if (!material) {
    material = newMaterial(theme === 'light');
    material.userData.isShared = true;
    materials.set(key, material);
  }
  return material;
}

/** Draws over the ground as ink on paper does, so that shade shows through; by night as paper under a lamp. */
function newMaterial(isInk: boolean): ShaderMaterial {
  return new ShaderMaterial({
    uniforms: { picture: { value: null }, strength: { value: 1 } },
    vertexShader: /* glsl */ `
      attribute vec2 place;
      varying vec2 at;
      void main() {
        at = place;
        gl_Position = projectionMatrix * (modelViewMatrix * vec4(position, 1.0));
      }`,
    fragmentShader: /* glsl */ `
      uniform sampler2D picture;
      uniform float strength;
      varying vec2 at;
      void main() {
        if (any(lessThan(at, vec2(0.0))) || any(greaterThan(at, vec2(1.0)))) discard;
        vec4 tone = texture2D(picture, at);
        float alpha = strength * tone.a;
        gl_FragColor = ${
          isInk
            ? 'vec4(mix(vec3(1.0), tone.rgb, alpha), 1.0)'
            : `vec4(tone.rgb * ${NIGHT_DIM.toFixed(2)}, alpha)`
        };
      }`,
    transparent: true,
    side: DoubleSide,
    depthWrite: false,
    polygonOffset: true,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -2,
    ...(isInk
      ? {
          blending: CustomBlending,
          blendSrc: DstColorFactor,
          blendDst: ZeroFactor,
          blendSrcAlpha: ZeroFactor,
          blendDstAlpha: OneFactor,
        }
      : { blending: NormalBlending }),
  });
}

/** Triangles that a picture is drawn on: its own corners where the ground is a plane, else those of the terrain under it. */
function triangles(underlay: Underlay, ground: Ground, scene: Scene): number[] {
  const corners = underlayCorners(underlay);
  if (ground.kind !== 'terrain') {
    const [a, b, c, d] = corners.map((p) => [p[0], p[1], groundLevel(ground, p)]) as [
      number[],
      number[],
      number[],
      number[],
    ];
    return [...a, ...b, ...c, ...a, ...c, ...d];
  }
  const [xs, ys] = [0, 1].map((k) => corners.map((p) => p[k]!)) as [number[], number[]];
  const [low, high] = [
    [Math.min(...xs), Math.min(...ys)],
    [Math.max(...xs), Math.max(...ys)],
  ] as const;
  const found: number[] = [];
  scene.owners.forEach(({ layer }, owner) => {
    if (layer !== 'ground') return;
    const { positions } = scene.pieces[owner]!;
    for (let t = 0; t < positions.length; t += 9) {
      const isBeside = [0, 1].some((k) => {
        const values = [positions[t + k]!, positions[t + 3 + k]!, positions[t + 6 + k]!];
        return Math.max(...values) < low[k]! || Math.min(...values) > high[k]!;
      });
      if (!isBeside) found.push(...positions.subarray(t, t + 9));
    }
  });
  return found;
}

/** A picture as it lies on the ground. */
export function underlayObject(
  underlay: Underlay,
  image: ImageBitmap,
  { ground, scene, theme, rank }: { ground: Ground; scene: Scene; theme: 'light' | 'dark'; rank: number },
): Mesh {
  const flat = triangles(underlay, ground, scene);
  const position = Float32Array.from(flat);
  const place = new Float32Array((flat.length / 3) * 2);
  for (let i = 0; i < flat.length / 3; i++) {
    const p: Point2 = [flat[i * 3]!, flat[i * 3 + 1]!];
    const [u, v] = underlayPixel(underlay, p);
    place[i * 2] = u / underlay.widthPx;
    place[i * 2 + 1] = v / underlay.heightPx;
    position[i * 3 + 2]! += LIFT_M;
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(position, 3));
  geometry.setAttribute('place', new BufferAttribute(place, 2));
  const material = materialOf(underlay, theme);
  material.uniforms.picture!.value = textureOf(image);
  material.uniforms.strength!.value = underlay.opacity;
  const mesh = new Mesh(geometry, material);
  mesh.renderOrder = ORDER + rank * 0.01;
  mesh.frustumCulled = false;
  return mesh;
}
