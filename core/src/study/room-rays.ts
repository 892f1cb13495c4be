import { clockAt } from '../civil';
import { InputError } from '../errors';
import {
  contains,
  containsWithHoles,
  dot,
  type MeshStore,
  minus,
  opposite,
  plus,
  type Point2,
  type Point3,
  triangleNormal,
} from '../geometry';
import type { Project } from '../project';
import { dayNumber, glassFactor, type Scene } from '../scene';
import { MovingScene, type Room, type RoomOpening, roomsIn } from '../shade';
import { sunPosition, sunVector } from '../sun';
import { litCells, paneCells } from './lit-panes';
import { type Landing, type LandingCount, LANDINGS, type RayStretch } from './landings';
import { checkRays, type RaysAsked } from './rays-asked';
import { shelfFaces, shelfReflectors, stripReflector, type Reflector, wallReflector } from './ray-reflectors';
import {
  cosineFan,
  meetStrip,
  mirrored,
  OFF_M,
  type Reflecting,
  type StripPlane,
  stripPlane,
} from './ray-shapes';
import { firstObstruction, type Obstacles, sceneObstacles } from '../trace';

/**
 * Rays from the sun in a room. Weights are square metres of glass × cos θ × transmittance: multiplied by the beam's
 * irradiance they are watts. What stays on surfaces, what leaves and what is not followed any further sum to what enters.
 */
export interface RoomRays {
  /** Rays that enter, and what they carry together. */
  rays: number;
  enters: number;
  counts: LandingCount[];
  /** Out again through openings, by reflections before. */
  leaves: number[];
  /** What would be reflected once more than was asked for. */
  unfollowed: number;
  /** What strip, wall and light shelves throw elsewhere than into the room. */
  misses: number;
  stretches: RayStretch[];
}

/** Rays on openings and strip, and stretches that are given to be drawn, those of spread light counted by themselves. */
const MAX_RAYS = 4000;
const MAX_STRETCHES = 12_000;
const MAX_SPREAD = 1200;
/** Directions of a spread reflection, by how often the ray was reflected before. */
const FAN = [24, 8, 4] as const;
/** How much of a ray is drawn outside, metres. */
const OUTSIDE_M = 2.5;

interface Hit {
  at: Point3;
  /** Against the ray. */
  normal: Point3;
  /** Null: nothing of the room. */
  landing: Landing | null;
  reflecting: Reflecting;
}

/**
 * Follows the sun through openings of a room, and off a strip, at a moment (epoch ms). One ray from every point of a grid;
 * at each surface the mirror-like share goes on along the mirrored direction and the spread share along a fixed
 * cosine-weighted fan. Null while the sun is down. Throws InputError `rays`.
 * @param atHand the scene of the option, and the same ready for tracing, where they are at hand
 * @see docs/methods.md, rays in a room
 */
export function roomRays(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  atMs: number,
  asked: RaysAsked,
  atHand: { scene: Scene; obstacles: Obstacles } | null = null,
): RoomRays | null {
  checkRays(asked);
  const { place, north } = project.site;
  const room = roomsIn(project, optionId, meshes).find(({ key }) => key === asked.room);
  if (!room) throw new InputError('rays', `There is no room “${asked.room}” in this option.`);
  const openings = room.openings.filter(({ id }) => asked.opening === null || id === asked.opening);
  if (openings.length === 0)
    throw new InputError(
      'rays',
      asked.opening === null
        ? `“${room.name}” has no opening for the sun to come in by.`
        : `“${room.name}” has no opening “${asked.opening}”.`,
    );
  const position = sunPosition(atMs, place);
  if (position.altitudeDeg <= 0) return null;
  const sun = sunVector(position.altitudeDeg, position.azimuthDeg, north.trueNorthDeg);
  const scene = new MovingScene(project, optionId, meshes, atHand?.scene).at(atMs);
  const obstacles = atHand && scene === atHand.scene ? atHand.obstacles : sceneObstacles(scene);
  const day = dayNumber(clockAt(atMs, place.zone).date.slice(5));
  const wall = asked.wall && wallReflector(project, meshes, asked.wall, asked.spacingM, scene, obstacles);
  const shelves = shelfReflectors(project, optionId, meshes, { mass: room.mass, openings }, asked.spacingM);
  const faces = shelfFaces(project, optionId);
  return new RayTracer(scene, obstacles, room, openings, sun, day, asked, { wall, shelves, faces }).run();
}

/** What throws sun into the room from outside, and how the upper faces of devices reflect. */
interface Outside {
  wall: Reflector | null;
  shelves: Reflector[];
  /** By the id of a light shelf. */
  faces: Map<string, Reflecting>;
}

class RayTracer {
  private readonly strip: StripPlane | null;
  private readonly counts = new Map<Landing, LandingCount>();
  private readonly out: RoomRays;
  private readonly owner: number;
  /** Stretches of spread light so far. */
  private spread = 0;

  constructor(
    private readonly scene: Scene,
    private readonly obstacles: Obstacles,
    private readonly room: Room,
    private readonly openings: readonly RoomOpening[],
    private readonly sun: Point3,
    private readonly day: number,
    private readonly asked: RaysAsked,
    private readonly outside: Outside,
  ) {
    this.owner = scene.owners.findIndex(({ id, optionId }) => id === room.mass && optionId === room.optionId);
    this.strip = asked.strip && stripPlane(asked.strip, openings[0]!.face);
    const blank = () => new Array<number>(asked.bounces + 1).fill(0);
    for (const surface of LANDINGS) this.counts.set(surface, { surface, lands: blank(), stays: blank() });
    this.out = {
      rays: 0,
      enters: 0,
      counts: [],
      leaves: blank(),
      unfollowed: 0,
      misses: 0,
      stretches: [],
    };
  }

  run(): RoomRays {
    const { sun, out } = this;
    const panes = this.openings.map((opening) => ({
      opening,
      cells: paneCells(opening, this.asked.spacingM),
    }));
    const starts = panes.reduce((sum, { cells }) => sum + cells.length, 0);
    const { wall, shelves } = this.outside;
    const strip = this.strip && stripReflector(this.strip, this.asked.spacingM, sun);
    const reflectors = [strip, wall, ...shelves];
    const rays = reflectors.reduce((sum, one) => sum + (one?.points.length ?? 0), starts);
    if (rays > MAX_RAYS)
      throw new InputError(
        'rays',
        `That makes ${rays.toLocaleString('en')} rays, more than ${MAX_RAYS.toLocaleString('en')}; take a wider spacing.`,
      );
    const down = opposite(sun);
    const lit = panes.flatMap(({ opening, cells }) => litCells(opening, cells, this.scene, sun));
    for (const { at, areaM2, opening } of lit) {
      const { normal } = opening.face;
      const cosine = dot(normal, sun);
      const outside = plus(at, normal, OFF_M);
      const open = this.openTo(outside);
      if (open <= 0) continue;
      const weight = areaM2 * cosine * this.passes(opening, cosine) * open;
      if (weight <= 0) continue;
      this.stretch(plus(at, sun, OUTSIDE_M), at, 0);
      this.enter(plus(at, normal, -OFF_M), down, weight, 0);
    }
    for (const one of reflectors) if (one) this.offReflector(one, down);
    out.counts = [...this.counts.values()];
    return out;
  }

  /** Share of the sun's light that reaches a place from outside. */
  private openTo(at: Point3): number {
    const { sun } = this;
    if (firstObstruction(this.obstacles, ...at, ...sun) >= 0) return 0;
    if (this.strip && meetStrip(this.strip, at, sun) !== null) return 0;
    return this.obstacles.transmission?.share(...at, ...sun, this.day) ?? 1;
  }

  /** Share of light that passes the pane of an opening at an angle. */
  private passes({ id, face }: RoomOpening, cosine: number): number {
    const piece = this.scene.pieces[this.owner]!;
    const pane = piece.surfaces.find(
      (surface) => surface.opening === id && surface.face === face.key && surface.passing,
    );
    return pane?.passing?.through === 'glass' ? pane.passing.share * glassFactor(cosine) : 1;
  }

  /** Sun that falls on a reflector outside: the part that it throws through the panes comes in reflected once. */
  private offReflector({ points, normal, reflecting, showsMisses }: Reflector, down: Point3): void {
    const { sun } = this;
    const cosine = dot(normal, sun);
    if (cosine <= 0) return;
    for (const { at, areaM2 } of points) {
      const above = plus(at, normal, OFF_M);
      // What stands inside is reached through panes: those rays are counted with the openings.
      const open = this.crossed(above, sun) ? 0 : this.openTo(above);
      const weight = areaM2 * cosine * open;
      if (weight <= 0 || this.asked.bounces === 0) continue;
      let isDrawn = showsMisses;
      if (isDrawn) this.stretch(plus(at, sun, OUTSIDE_M), at, 0);
      for (const { way, share, isSpread } of this.reflections(down, normal, reflecting, 0)) {
        const through = this.crossed(above, way);
        const hit = this.nearest(above, way);
        const part = weight * share;
        if (!through || (hit && through.distance > Math.hypot(...minus(hit.at, above)))) {
          this.out.misses += part;
          if (showsMisses) this.stretch(at, hit ? hit.at : plus(at, way, OUTSIDE_M), 1, isSpread);
          continue;
        }
        const cos = -dot(way, through.opening.face.normal);
        const inside = part * this.passes(through.opening, Math.abs(cos));
        this.out.misses += part - inside;
        if (!isDrawn) this.stretch(plus(at, sun, OUTSIDE_M), at, 0);
        isDrawn = true;
        this.stretch(at, through.at, 1, isSpread);
        this.enter(plus(through.at, through.opening.face.normal, -OFF_M), way, inside, 1, isSpread);
      }
    }
  }

  private enter(from: Point3, way: Point3, weight: number, bounce: number, isSpread = false): void {
    this.out.rays++;
    this.out.enters += weight;
    this.follow(from, way, weight, bounce, isSpread);
  }

  private follow(from: Point3, way: Point3, weight: number, bounce: number, isSpread: boolean): void {
    const hit = this.nearest(from, way);
    if (!hit?.landing) {
      this.out.leaves[bounce]! += weight;
      this.stretch(from, hit ? hit.at : plus(from, way, OUTSIDE_M), bounce, isSpread);
      return;
    }
    this.stretch(from, hit.at, bounce, isSpread);
    const count = this.counts.get(hit.landing)!;
    const { reflectance } = hit.reflecting;
    count.lands[bounce]! += weight;
    count.stays[bounce]! += weight * (1 - reflectance);
    if (bounce >= this.asked.bounces) {
      this.out.unfollowed += weight * reflectance;
      return;
    }
    const off = plus(hit.at, hit.normal, OFF_M);
    for (const { way: next, share, isSpread: isFanned } of this.reflections(
      way,
      hit.normal,
      hit.reflecting,
      bounce,
    ))
      this.follow(off, next, weight * share, bounce + 1, isSpread || isFanned);
  }

  /** The ways on from a surface, with their shares. */
  private reflections(
    way: Point3,
    normal: Point3,
    { reflectance, mirror }: Reflecting,
    bounce: number,
  ): { way: Point3; share: number; isSpread: boolean }[] {
    const ways: { way: Point3; share: number; isSpread: boolean }[] = [];
    if (reflectance * mirror > 0)
      ways.push({ way: mirrored(way, normal), share: reflectance * mirror, isSpread: false });
    const spread = reflectance * (1 - mirror);
    if (spread > 0) {
      const n = FAN[Math.min(bounce, FAN.length - 1)]!;
      for (const one of cosineFan(normal, n)) ways.push({ way: one, share: spread / n, isSpread: true });
    }
    return ways;
  }

  private nearest(from: Point3, way: Point3): Hit | null {
    const triangle = firstObstruction(this.obstacles, ...from, ...way);
    const hit = triangle < 0 ? null : this.hitOn(triangle, from, way);
    const onStrip = this.strip && meetStrip(this.strip, from, way);
    if (onStrip === null || (hit && dot(minus(hit.at, from), way) <= onStrip)) return hit;
    const { normal, strip } = this.strip!;
    return {
      at: plus(from, way, onStrip),
      normal: dot(normal, way) < 0 ? normal : opposite(normal),
      landing: 'strip',
      reflecting: strip,
    };
  }

  private hitOn(triangle: number, from: Point3, way: Point3): Hit {
    const { scene } = this;
    const { surfaces: reflecting } = this.asked;
    if (triangle < scene.shown) {
      const { normal, offset } = scene.ground;
      const reach = (offset - dot(normal, from)) / dot(normal, way);
      const at = plus(from, way, reach);
      return { at, normal: [...normal], landing: this.isFloor(at) ? 'floor' : null, reflecting };
    }
    const p = scene.positions;
    const o = triangle * 9;
    const [a, b, c] = [0, 3, 6].map((k): Point3 => [p[o + k]!, p[o + k + 1]!, p[o + k + 2]!]) as [
      Point3,
      Point3,
      Point3,
    ];
    const outward = triangleNormal(a, b, c);
    const facing = dot(outward, way);
    const reach = dot(minus(a, from), outward) / facing;
    const normal = facing < 0 ? outward : opposite(outward);
    const surface = scene.surfaceOf[triangle]!;
    const at = plus(from, way, reach);
    const isOwn = scene.ownerOf[surface] === this.owner;
    if (isOwn)
      return {
        at,
        normal,
        landing: this.landingOn(scene.surfaces[surface]!.kind, facing, normal, way),
        reflecting,
      };
    const owner = scene.owners[scene.ownerOf[surface]!]!;
    if (owner.layer !== 'devices' || !this.isInside(at)) return { at, normal, landing: null, reflecting };
    const upper = outward[2] > 0.5 ? this.outside.faces.get(owner.id) : undefined;
    return { at, normal, landing: 'devices', reflecting: upper ?? reflecting };
  }

  /** Whether a place lies within the room. */
  private isInside([x, y, z]: Point3): boolean {
    const { floorM, ceilingM, shape } = this.room;
    return z > floorM && z < ceilingM && containsWithHoles(shape, [x, y]);
  }

  /** Whether a place on the ground is the floor of the room: the lowest floor may lie in the ground's own plane. */
  private isFloor([x, y, z]: Point3): boolean {
    return Math.abs(z - this.room.floorM) < 0.005 && containsWithHoles(this.room.shape, [x, y]);
  }

  /** Where in the room a hit on its own body is; null on the body's outside. */
  private landingOn(kind: string, facing: number, normal: Point3, way: Point3): Landing | null {
    if (kind === 'floor' || kind === 'roof') {
      if (kind === 'roof' && facing < 0) return null;
      return way[2] < 0 ? 'floor' : 'ceiling';
    }
    if (kind === 'furniture') return 'furniture';
    if (kind === 'reveal') return 'reveals';
    if (kind !== 'partition' && facing < 0) return null;
    const out = this.openings[0]!.face.normal;
    // The side of a wall that is met looks at the room.
    const square = dot(normal, out);
    if (Math.abs(out[2]) > 0.5) return 'side walls';
    return square > 0.7 ? 'back wall' : square < -0.7 ? 'window wall' : 'side walls';
  }

  /** The pane that a way crosses first. */
  private crossed(from: Point3, way: Point3): { opening: RoomOpening; at: Point3; distance: number } | null {
    let found: { opening: RoomOpening; at: Point3; distance: number } | null = null;
    for (const opening of this.room.openings) {
      const { face, pane } = opening;
      const falls = dot(way, face.normal);
      if (Math.abs(falls) < 1e-9) continue;
      const distance = dot(minus(pane[0]!, from), face.normal) / falls;
      if (distance <= 0 || (found && distance >= found.distance)) continue;
      const at = plus(from, way, distance);
      const flat = (p: Point3): Point2 => [
        dot(minus(p, face.origin), face.u),
        dot(minus(p, face.origin), face.v),
      ];
      if (contains(pane.map(flat), flat(at))) found = { opening, at, distance };
    }
    return found;
  }

  private stretch(from: Point3, to: Point3, bounce: number, isSpread = false): void {
    const { stretches } = this.out;
    if (isSpread ? ++this.spread > MAX_SPREAD : stretches.length >= MAX_STRETCHES) return;
    stretches.push({ from, to, bounce, isSpread });
  }
}
