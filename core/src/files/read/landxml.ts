import sax from 'sax';
import { decodedText } from '../../civil';
import { InputError } from '../../errors';
import { MeshGather } from '../mesh-gather';
import { blankModel, checkSize, cleanName, leftOut, type ModelFile } from '../model-file';
import type { ModelUnit } from '../model-units';

/** Units that the format names, those that stand for a length. */
const UNITS: Readonly<Record<string, ModelUnit>> = {
  ...{ meter: 'm', metre: 'm', millimeter: 'mm', centimeter: 'cm', kilometer: 'km' },
  ...{ foot: 'ft', ussurveyfoot: 'us-ft', inch: 'in', mile: 'mi' },
};

/** Faces and points within one surface. */
interface Surface {
  name: string;
  points: Map<string, [number, number, number]>;
  faces: string[][];
}

/**
 * Reads the surfaces of a LandXML file (1.0 to 2.0): points as north, east and height, faces by the names of their points,
 * those that are marked as not seen left out; of a surface without faces the points as heights. Throws InputError `landxml`.
 */
export function readLandXml(bytes: Uint8Array): ModelFile {
  checkSize(bytes);
  const { text } = decodedText(bytes);
  const model = blankModel('landxml');
  model.up = 'z';
  const surfaces: Surface[] = [];
  let surface: Surface | null = null;
  let element: { tag: string; id: string; isSeen: boolean; text: string } | null = null;
  let isDefinition = false;
  const parser = sax.parser(true, { trim: true, position: false });
  parser.onopentag = ({ name, attributes }) => {
    const get = (key: string) => String(attributes[key] ?? '');
    const tag = name.replace(/^.*:/, '');
    if (tag === 'Metric' || tag === 'Imperial') model.unit = UNITS[get('linearUnit').toLowerCase()] ?? null;
    else if (tag === 'CoordinateSystem' && /^\d{4,6}$/.test(get('epsgCode')))
      model.system = `EPSG:${get('epsgCode')}`;
    else if (tag === 'Surface')
      surface = { name: cleanName(get('name'), 'Surface'), points: new Map(), faces: [] };
    else if (tag === 'Definition') isDefinition = true;
    else if ((tag === 'P' || tag === 'F') && surface && isDefinition)
      element = { tag, id: get('id'), isSeen: get('i') !== '1', text: '' };
  };
  parser.ontext = (part) => {
    if (element) element.text += ` ${part}`;
  };
  parser.onclosetag = (name) => {
    const tag = name.replace(/^.*:/, '');
    if (tag === 'Surface' && surface) {
      surfaces.push(surface);
      surface = null;
    } else if (tag === 'Definition') isDefinition = false;
    else if (element && surface && tag === element.tag) {
      const parts = element.text.trim().split(/\s+/);
      if (tag === 'F') {
        if (element.isSeen) surface.faces.push(parts.slice(0, 4));
      } else {
        const [north, east, z] = parts.map(Number);
        if ([north, east, z].every((value) => Number.isFinite(value)))
          surface.points.set(element.id, [east!, north!, z!]);
      }
      element = null;
    }
  };
  let wrong: Error | null = null;
  parser.onerror = (error) => {
    wrong ??= error;
    throw error;
  };
  try {
    parser.write(text).close();
  } catch {
    throw new InputError('landxml', `This is not a sound LandXML file: ${plainFault(wrong)}`);
  }
  addSurfaces(model, surfaces);
  return model;
}

const plainFault = (error: Error | null) =>
  `${cleanName(error?.message.split('\n')[0], 'it cannot be read')}.`;

function addSurfaces(model: ModelFile, surfaces: readonly Surface[]): void {
  const gather = new MeshGather();
  let lost = 0;
  for (const { name, points, faces } of surfaces) {
    if (faces.length === 0 && points.size >= 3) {
      model.spots.push({ name, positions: Float64Array.from([...points.values()].flat()) });
      continue;
    }
    gather.group(name, { kind: 'terrain' });
    for (const face of faces) {
      const corners = face.flatMap((id) => {
        const at = points.get(id);
        return at ? [at] : [];
      });
      if (corners.length >= 3 && corners.length === face.length) gather.polygon(corners);
      else lost++;
    }
  }
  if (gather.count > 0) {
    model.mesh = gather.mesh('landxml', 'The file holds no surfaces.');
    model.groups = gather.groups.filter(({ firstTriangle }) => firstTriangle < gather.count);
  }
  model.notes.push(
    ...leftOut(
      lost,
      'face that names points which are not there',
      'faces that name points which are not there',
    ),
  );
  if (!model.mesh && model.spots.length === 0) throw new InputError('landxml', 'The file holds no surfaces.');
}
