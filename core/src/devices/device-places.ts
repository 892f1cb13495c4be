import { type Face, onFace, outlineBox, roomsOf, wallName } from '../form';
import { containsWithHoles, type MeshStore } from '../geometry';
import { type FittedBody, isMeant, openingsIn } from '../openings';
import { type Device, type MassShape, type Project, requireOption, type Scheme } from '../project';
import { boxCount } from './device-boxes';
import { positionCount } from './device-moves';
import type { DevicePlace } from './device-place';
import { deviceStations } from './device-stations';

/** The scheme of devices that stands in an option; null without. */
export function standingScheme(project: Project, optionId: string): Scheme | null {
  const { schemes, scheme } = requireOption(project, optionId);
  return schemes.find(({ id }) => id === scheme) ?? null;
}

/** The project with nothing in an option that shades: no scheme stands, and what is marked as a device is gone. */
export function withoutDevices(project: Project, optionId: string): Project {
  const option = requireOption(project, optionId);
  const bare = {
    ...option,
    scheme: null,
    masses: option.masses.filter(({ device }) => !device),
    models: option.models.filter(({ device }) => !device),
  };
  return { ...project, options: project.options.map((one) => (one === option ? bare : one)) };
}

/** The glazed openings of what an option itself proposes, body by body. */
export function glazedPlaces(project: Project, optionId: string, meshes: MeshStore): GlazedBody[] {
  const openings = openingsIn(project, optionId, meshes);
  return openings.all
    .filter((item) => item.optionId === optionId)
    .flatMap(({ body }) => {
      const fitted = openings.of(body);
      return fitted
        ? [{ fitted, places: placesOf(body, fitted), mass: 'footprint' in body ? body : null }]
        : [];
    });
}

/** The glazed openings of one body. */
export interface GlazedBody {
  fitted: FittedBody;
  places: readonly DevicePlace[];
  /** Null of an imported mesh. */
  mass: MassShape | null;
}

const known = new WeakMap<FittedBody, DevicePlace[]>();

function placesOf(owner: { id: string; name: string }, fitted: FittedBody): DevicePlace[] {
  let places = known.get(fitted);
  if (!places) {
    places = [...fitted.byFace].flatMap(([key, openings]) => {
      const face = fitted.faces.find((one) => one.key === key)!;
      const boxes = openings.map(({ outline }) => outlineBox(outline));
      return openings
        .filter(({ kind, glazing }) => kind !== 'void' && glazing !== null)
        .map((opening): DevicePlace => {
          const box = outlineBox(opening.outline);
          return {
            owner: { id: owner.id, name: owner.name },
            face,
            opening,
            box: { ...box, revealM: opening.revealM, nextM: wayToNext(box, boxes) },
          };
        });
    });
    known.set(fitted, places);
  }
  return places;
}

type Box = ReturnType<typeof outlineBox>;

/** From the right jamb of an opening to the next one of the wall that stands as high; null where there is none. */
function wayToNext({ u1, v0, v1 }: Box, boxes: readonly Box[]): number | null {
  let least: number | null = null;
  for (const other of boxes) {
    const way = other.u0 - u1;
    if (way >= 0 && other.v0 < v1 && other.v1 > v0 && (least === null || way < least)) least = way;
  }
  return least;
}

/** Which of the glazed openings a device hangs on. */
export function placesOfDevice(
  { scope, openings, except }: Device,
  bodies: readonly GlazedBody[],
  trueNorthDeg: number,
): DevicePlace[] {
  const whole = { ...scope, walls: scope.walls ?? null, except: [] };
  const has = (list: NonNullable<Device['openings']>, { owner, opening }: DevicePlace) =>
    list.some((one) => one.owner === owner.id && one.opening === opening.id);
  return bodies.flatMap(({ mass, places }) =>
    places.filter(
      (place) =>
        isMeant(whole, place.owner.id, place.face, trueNorthDeg) &&
        (openings === null || has(openings, place)) &&
        !(except && has(except, place)) &&
        (!scope.rooms || (mass !== null && isInRoom(scope.rooms, mass, place))),
    ),
  );
}

/** How far behind its face an opening is asked for its room, metres. */
const BEHIND_M = 0.35;

/** Whether an opening in a wall is one of these rooms of its body. */
function isInRoom(
  rooms: NonNullable<Device['scope']['rooms']>,
  mass: MassShape,
  { owner, face, box }: DevicePlace,
): boolean {
  const wanted = rooms.filter((one) => one.owner === owner.id).map(({ room }) => room);
  const { host } = face;
  if (wanted.length === 0 || host.on !== 'wall') return false;
  const [x, y] = onFace(face, [(box.u0 + box.u1) / 2, (box.v0 + box.v1) / 2], BEHIND_M);
  const room = roomsOf(mass).find(
    ({ storey, outer, holes, doubleHeight }) =>
      (storey === host.storey || (doubleHeight && storey + 1 === host.storey)) &&
      containsWithHoles({ outer, holes }, [x, y]),
  );
  return room !== undefined && room.id !== null && wanted.includes(room.id);
}

/** The openings in the wall of one that a device hangs on, that one always among them: what hangs at the next window shades too. */
export function placesBeside(
  device: Device,
  place: DevicePlace,
  bodies: readonly GlazedBody[],
  trueNorthDeg: number,
): DevicePlace[] {
  const { owner, face, opening } = place;
  const nameOf = (of: Face) => (device.along === 'facade' && wallName(owner.id, of.host)) || of.key;
  const beside = placesOfDevice(device, bodies, trueNorthDeg).filter(
    (one) => one.owner.id === owner.id && nameOf(one.face) === nameOf(face),
  );
  return beside.some((one) => one.opening.id === opening.id) ? beside : [...beside, place];
}

/** Solids that the devices of an option may come to: plates, fins, slats. */
const MAX_BOXES = 60_000;

/** How many solids the scheme that stands comes to, in all positions of what moves, where that is more than are built; null: it is built. */
export function tooManyBoxes(
  { devices }: Scheme,
  bodies: readonly GlazedBody[],
  trueNorthDeg: number,
): number | null {
  let count = 0;
  for (const device of devices)
    for (const { box } of deviceStations(device, placesOfDevice(device, bodies, trueNorthDeg)))
      count += boxCount(device.make, box) * positionCount(device.make);
  return count > MAX_BOXES ? count : null;
}

/** Why devices are not built. */
export function tooManyDevices(count: number): string {
  return `The devices of this scheme come to ${count.toLocaleString('en')} plates and slats; at most ${MAX_BOXES.toLocaleString('en')} are built, so none is. Space them wider, or hang them on fewer openings.`;
}
