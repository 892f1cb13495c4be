import { clockAt } from '../civil';
import { InputError } from '../errors';
import {
  areaWithHoles,
  dot,
  intersectPolygons,
  type MeshStore,
  type Point3,
  type Polygon,
  subtractPolygons,
  unitePolygons,
} from '../geometry';
import { type Project, TODAY } from '../project';
import { assembleScene, dayNumber, isProposed, refuseTooLarge, type Scene } from '../scene';
import { sunPosition, sunVector } from '../sun';
import {
  type Casters,
  castersOf,
  castShade,
  type FlatReceiver,
  type PassingCasters,
  passingCastersOf,
} from './cast';
import { MovingScene } from './moving-scene';
import { builtOver, type Receiver, receiversOf, type ShadeOn } from './receivers';

/** Shade on a receiver at a moment, or what of it one owner throws. */
export interface ShadeRow {
  /** Index into the moments. */
  moment: number;
  receiver: Receiver;
  /** Who throws it, as an index into the scene; null for all together. */
  owner: number | null;
  totalM2: number;
  /** Null while the sun is down. */
  shadedM2: number | null;
  /** Shaded now and not today, where both have the ground; null while the sun is down. */
  newlyM2: number | null;
  /** In the receiver's coordinates. */
  shaded: Polygon[];
  newly: Polygon[];
  /** Where a share of the sun passes and nothing blocks it, of all together: each thing's own region; they may overlap. */
  passing: { owner: number; transmittance: number; areaM2: number; regions: Polygon[] }[];
}

export interface ShadowStudy {
  scene: Scene;
  option: string;
  on: ShadeOn;
  moments: readonly number[];
  receivers: Receiver[];
  rows: ShadeRow[];
}

const areaOf = (polygons: readonly Polygon[], stretch: number) =>
  polygons.reduce((sum, polygon) => sum + areaWithHoles(polygon), 0) * stretch;

/**
 * Exact shade at moments (epoch ms) on areas that matter, the ground, roofs or facades of an option: of all together and,
 * with `owners`, of each that throws any, as if it stood alone. Areas are measured on the surface; ground that is built
 * over counts nowhere. Newly shaded is what is shaded now and was not today, on ground that both have; on roofs and
 * facades, what the option throws on what stands today too. What lets light
 * pass throws no full shade; its paler regions stand beside.
 * Throws InputError `areas` where there is nothing to throw shade on, and what `refuseTooLarge` throws.
 */
export function shadowStudy(
  project: Project,
  optionId: string,
  meshes: MeshStore,
  moments: readonly number[],
  on: ShadeOn,
  owners = false,
  progress: (share: number) => void = () => {},
): ShadowStudy {
  refuseTooLarge(project, optionId);
  const scene = assembleScene(project, optionId, meshes);
  const receivers = receiversOf(project, optionId, scene, on);
  if (receivers.length === 0)
    throw new InputError(
      'areas',
      on === 'areas'
        ? 'The project has no areas to throw shade on; draw one on the Site stage, or ask for the ground.'
        : 'Nothing stands in this option.',
    );
  const today = optionId === TODAY ? null : assembleScene(project, TODAY, meshes);
  const builtToday = today && (on === 'areas' || on === 'ground') ? builtOver(project, TODAY) : [];
  const { place, north, ground } = project.site;
  // Ground that is a plane throws no shade on what lies in it or stands over it while the sun is above that plane.
  const first = ground.kind === 'terrain' ? 0 : 1;
  const rows: ShadeRow[] = [];
  const moving = new MovingScene(project, optionId, meshes, scene);
  moments.forEach((atMs, moment) => {
    const now = moving.at(atMs);
    const sun = sunPosition(atMs, place);
    const vector = sunVector(sun.altitudeDeg, sun.azimuthDeg, north.trueNorthDeg);
    const isUp = sun.altitudeDeg > 0;
    const isGroundLit = dot(vector, scene.ground.normal) > 0;
    const casting = new MomentCasting(vector, isGroundLit, first);
    const day = dayNumber(clockAt(atMs, place.zone).date);
    const passers = isUp && isGroundLit ? passingCastersOf(now.pieces, vector, day) : [];
    for (const receiver of receivers) {
      const totalM2 = receiver.parts.reduce((sum, part) => sum + areaOf(part.regions, part.stretch), 0);
      const put = (owner: number | null) => {
        const row: ShadeRow = {
          moment,
          receiver,
          owner,
          totalM2,
          shadedM2: null,
          newlyM2: null,
          shaded: [],
          newly: [],
          passing: [],
        };
        if (isUp) {
          row.shadedM2 = row.newlyM2 = 0;
          for (const part of receiver.parts) {
            const shaded = casting.on(part, now, owner);
            row.shadedM2 += areaOf(shaded, part.stretch);
            row.shaded.push(...shaded);
            if (owner === null) row.passing.push(...passingOn(part, passers, shaded));
            if (!today || shaded.length === 0 || !hasBoth(receiver, scene)) continue;
            const newly = subtractPolygons(shaded, [...casting.before(part, today), ...builtToday]);
            row.newlyM2 += areaOf(newly, part.stretch);
            row.newly.push(...newly);
          }
        }
        if (owner === null || row.shadedM2) rows.push(row);
      };
      put(null);
      if (owners && isUp && isGroundLit)
        scene.pieces.forEach((_, owner) => {
          if (owner >= first) put(owner);
        });
    }
    progress((moment + 1) / moments.length);
  });
  return { scene, option: optionId, on, moments, receivers, rows };
}

/** Shade that scenes throw at one moment: what throws it is prepared once. */
class MomentCasting {
  private readonly prepared = new Map<Scene, Map<number | null, Casters>>();
  private readonly known = new Map<FlatReceiver, Polygon[]>();

  /** `first` is the first piece that throws any. */
  constructor(
    private readonly sun: Point3,
    private readonly isGroundLit: boolean,
    private readonly first: number,
  ) {}

  /** What a scene, or one owner of it, throws on a part of a receiver. */
  on(part: FlatReceiver, of: Scene, owner: number | null): Polygon[] {
    return this.isGroundLit ? castShade(part, this.casters(of, owner)) : [...part.regions];
  }

  /** What all of Today throws there: the same whoever else is asked about. */
  before(part: FlatReceiver, today: Scene): Polygon[] {
    const found = this.known.get(part) ?? this.on(part, today, null);
    this.known.set(part, found);
    return found;
  }

  private casters(of: Scene, owner: number | null): Casters {
    const ofScene = this.prepared.get(of) ?? new Map<number | null, Casters>();
    this.prepared.set(of, ofScene);
    const pieces = () => (owner === null ? of.pieces.slice(this.first) : [of.pieces[owner]!]);
    const found = ofScene.get(owner) ?? castersOf(pieces(), this.sun);
    ofScene.set(owner, found);
    return found;
  }
}

/** Where on a part of a receiver a share of the sun passes, outside of its full shade. */
function passingOn(
  part: FlatReceiver,
  passers: readonly PassingCasters[],
  shaded: readonly Polygon[],
): ShadeRow['passing'] {
  if (dot(part.normal, passers[0]?.casters.sun ?? part.normal) <= 1e-9) return [];
  return passers.flatMap(({ owner, transmittance, casters }) => {
    const under = castShade(part, casters);
    const regions = under.length && shaded.length ? subtractPolygons(under, shaded) : under;
    return regions.length ? [{ owner, transmittance, areaM2: areaOf(regions, part.stretch), regions }] : [];
  });
}

/** Whether a receiver is there today too: the ground, and what is no part of the option. */
function hasBoth({ owner }: Receiver, scene: Scene): boolean {
  return owner === null || !isProposed(scene.owners[owner]!.layer);
}

/**
 * What lies under so many of some regions or more: the first entry under one at least, the last under all that overlap.
 */
export function shadeCounts(regions: readonly (readonly Polygon[])[]): Polygon[][] {
  const bands: Polygon[][] = [];
  for (const region of regions) {
    if (region.length === 0) continue;
    let carried = [...region];
    for (let k = 0; k <= bands.length && carried.length; k++) {
      const band = bands[k];
      if (!band) {
        bands.push(carried);
        break;
      }
      // What lies under this region and was under k + 1 before is now under k + 2.
      const both = intersectPolygons(band, carried);
      bands[k] = unitePolygons([...band, ...carried]);
      carried = both;
    }
  }
  return bands;
}
