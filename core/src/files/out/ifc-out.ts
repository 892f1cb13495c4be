import { contentHash } from '../../content-hash';
import type { Point3 } from '../../geometry';
import { type Project, requireOption, type Site } from '../../project';
import { solidRuns } from './solid-runs';
import { mapAxes, mapFrame } from './map-frame';
import type { BodyKind, OutPart } from './out-parts';
import { type StepReference, StepText, type StepValue, whole, word } from './step-text';

/** What each kind is in a building model, with its kind of that where the schema has one. */
const ENTITIES: Record<BodyKind, [entity: string, predefined: string]> = {
  building: ['IFCBUILDINGELEMENTPROXY', 'NOTDEFINED'],
  mesh: ['IFCBUILDINGELEMENTPROXY', 'NOTDEFINED'],
  tree: ['IFCGEOGRAPHICELEMENT', 'USERDEFINED'],
  wall: ['IFCWALL', 'NOTDEFINED'],
  fence: ['IFCRAILING', 'NOTDEFINED'],
  device: ['IFCSHADINGDEVICE', 'NOTDEFINED'],
};

/**
 * Parts as an IFC4 file: metres, z up, in the project frame, with place, true north and, where the map system is known, what
 * leads to it. Each is one element with its triangles; what the option proposes is in the building, all else on the site.
 */
export function writeIfc(parts: readonly OutPart[], project: Project, optionId: string): Uint8Array {
  const { site } = project;
  const { letter, name } = requireOption(project, optionId);
  const file = new StepText();
  const guid = (...of: string[]) => globalId(contentHash([project.name, optionId, ...of]));
  const point = (...at: number[]) => file.add('IFCCARTESIANPOINT', at);
  const direction = (...of: number[]) => file.add('IFCDIRECTION', of);
  const axes = file.add('IFCAXIS2PLACEMENT3D', point(0, 0, 0), null, null);
  const north = (site.north.trueNorthDeg * Math.PI) / 180;
  const context = file.add(
    'IFCGEOMETRICREPRESENTATIONCONTEXT',
    ...[null, 'Model', whole(3), 1e-5, axes, direction(Math.sin(north), Math.cos(north))],
  );
  const body = file.add(
    'IFCGEOMETRICREPRESENTATIONSUBCONTEXT',
    ...['Body', 'Model', undefined, undefined, undefined, undefined],
    ...[context, null, word('MODEL_VIEW'), null],
  );
  const metre = file.add('IFCSIUNIT', undefined, word('LENGTHUNIT'), null, word('METRE'));
  addMap(file, site, context, metre);
  const units = file.add('IFCUNITASSIGNMENT', [
    metre,
    file.add('IFCSIUNIT', undefined, word('AREAUNIT'), null, word('SQUARE_METRE')),
    file.add('IFCSIUNIT', undefined, word('VOLUMEUNIT'), null, word('CUBIC_METRE')),
    file.add('IFCSIUNIT', undefined, word('PLANEANGLEUNIT'), null, word('RADIAN')),
  ]);
  const root = file.add(
    'IFCPROJECT',
    ...[guid('project'), null, project.name, null, null, null, null, [context], units],
  );
  const at = file.add('IFCLOCALPLACEMENT', null, axes);
  const { latitudeDeg, longitudeDeg, elevationM } = site.place;
  const ground = file.add(
    'IFCSITE',
    ...[guid('site'), null, site.place.name || 'Site', null, null, at, null, null, word('ELEMENT')],
    ...[degrees(latitudeDeg), degrees(longitudeDeg), elevationM, null, null],
  );
  const building = file.add(
    'IFCBUILDING',
    ...[guid('building'), null, `${letter} ${name}`, null, null, at, null, null, word('ELEMENT')],
    ...[null, null, null],
  );
  file.add('IFCRELAGGREGATES', guid('of project'), null, null, null, root, [ground]);
  file.add('IFCRELAGGREGATES', guid('of site'), null, null, null, ground, [building]);
  const [proposed, standing]: StepReference[][] = [[], []];
  for (const part of parts) {
    const [entity, predefined] = ENTITIES[part.kind];
    const element = file.add(
      entity,
      ...[guid(part.id, part.of.role, part.name), null, part.name, null, objectType(part), at],
      ...[shapeOf(file, part, body), null, word(predefined)],
    );
    (part.layer === 'option' || part.layer === 'devices' ? proposed : standing)!.push(element);
  }
  const contain = (of: string, elements: StepReference[], holder: StepReference) => {
    if (elements.length > 0)
      file.add('IFCRELCONTAINEDINSPATIALSTRUCTURE', guid(of), null, null, null, elements, holder);
  };
  contain('in the building', proposed!, building);
  contain('on the site', standing!, ground);
  return file.file('IFC4', `${project.name}.ifc`, `${site.year}-01-01T00:00:00`);
}

const objectType = ({ kind, of }: OutPart) => (of.role === 'body' ? kind : of.role);

function shapeOf(file: StepText, { mesh: { positions: p, triangles } }: OutPart, body: StepReference) {
  const points = Array.from({ length: p.length / 3 }, (_, i): Point3 => [
    p[i * 3]!,
    p[i * 3 + 1]!,
    p[i * 3 + 2]!,
  ]);
  const faces = Array.from({ length: triangles.length / 3 }, (_, t) =>
    [0, 1, 2].map((k) => whole(triangles[t * 3 + k]! + 1)),
  );
  const isClosed = word(solidRuns(triangles, (i) => points[i]!) === null ? 'F' : 'T');
  const list = file.add('IFCCARTESIANPOINTLIST3D', points);
  const set = file.add('IFCTRIANGULATEDFACESET', list, null, isClosed, faces, null);
  const shape = file.add('IFCSHAPEREPRESENTATION', body, 'Body', 'Tessellation', [set]);
  return file.add('IFCPRODUCTDEFINITIONSHAPE', null, null, [shape]);
}

/** What leads from the project to the map. */
function addMap(file: StepText, site: Site, context: StepReference, metre: StepReference): void {
  const frame = mapFrame(site, { orUtm: true });
  if (!frame.system) return;
  const { origin, along, scale } = mapAxes(frame);
  const map = file.add('IFCPROJECTEDCRS', frame.system.code, null, null, null, null, null, metre);
  file.add('IFCMAPCONVERSION', context, map, ...origin, ...along, scale);
}

/** Degrees, minutes, seconds and millionths of one, all of one sign. */
function degrees(value: number): StepValue {
  const sign = value < 0 ? -1 : 1;
  let rest = Math.round(Math.abs(value) * 3_600e6);
  const parts = [3_600e6, 60e6, 1e6].map((unit) => {
    const count = Math.floor(rest / unit);
    rest -= count * unit;
    return count;
  });
  return [...parts, rest].map((count) => whole(sign * count + 0));
}

const DIGITS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$';

/** A global id of 22 characters out of the first 128 bits of a hash in hexadecimal. */
function globalId(hash: string): string {
  let bits = BigInt(`0x${hash.slice(0, 32)}`);
  let text = '';
  for (let i = 0; i < 22; i++) {
    text = DIGITS[Number(bits & 63n)]! + text;
    bits >>= 6n;
  }
  return text;
}
