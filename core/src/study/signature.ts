import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { MassShape, Neighbour, Project, Study } from '../project/schema';
import { TODAY } from '../project/schema';
import { standingMasses } from '../scene/scene';

/** What a result was computed from: for each thing, its name for people and a hash of what matters of it. */
export type Signature = Record<string, { name: string; hash: string }>;

/** JSON with sorted keys, so that equal values give equal text. */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(',')}]`;
  if (typeof value === 'object' && value !== null) {
    const entries = Object.entries(value).filter(([, v]) => v !== undefined);
    entries.sort(([a], [b]) => (a < b ? -1 : 1));
    return `{${entries.map(([k, v]) => `${JSON.stringify(k)}:${canonicalJson(v)}`).join(',')}}`;
  }
  return JSON.stringify(value);
}

/** SHA-256 of a value's canonical JSON, or of bytes, in hexadecimal. */
export function contentHash(value: unknown): string {
  return bytesToHex(sha256(value instanceof Uint8Array ? value : utf8ToBytes(canonicalJson(value))));
}

const shape = ({ footprint, base, storeys, roof }: MassShape) => ({ footprint, base, storeys, roof });

/** Signatures of parts by the part itself; parts are never changed in place. */
const hashes = new WeakMap<object, string>();

function partHash(part: object, matters: () => unknown): string {
  let hash = hashes.get(part);
  if (!hash) {
    hash = contentHash(matters());
    hashes.set(part, hash);
  }
  return hash;
}

function neighbourMatters(neighbour: Neighbour): unknown {
  return neighbour.kind === 'building'
    ? shape(neighbour)
    : { mesh: neighbour.mesh, move: neighbour.move, turnDeg: neighbour.turnDeg };
}

/** Everything that the result of a study of an option depends on. Names and notes do not count. */
export function signature(project: Project, optionId: string, study: Study): Signature {
  const { place, north, ground } = project.site;
  const all: Signature = {
    place: {
      name: 'the place',
      hash: contentHash([place.latitudeDeg, place.longitudeDeg, place.elevationM, place.zone]),
    },
    north: { name: 'true north', hash: contentHash(north.trueNorthDeg) },
    ground: { name: 'the ground', hash: contentHash(ground) },
    window: { name: 'the window of time', hash: contentHash([study.window, study.stepMinutes]) },
  };
  for (const target of project.targets)
    if (study.targets.includes(target.id))
      all[`target:${target.id}`] = {
        name: `the target “${target.name}”`,
        hash: partHash(target, () => [target.outline, target.spacingM, target.offsetM]),
      };
  for (const neighbour of project.neighbours)
    all[`neighbour:${neighbour.id}`] = {
      name: `the neighbour “${neighbour.name}”`,
      hash: partHash(neighbour, () => neighbourMatters(neighbour)),
    };
  const masses = standingMasses(project, optionId).map((mass) => ({ mass, of: TODAY }));
  if (optionId !== TODAY)
    for (const mass of project.options.find((option) => option.id === optionId)?.masses ?? [])
      masses.push({ mass, of: optionId });
  for (const { mass, of } of masses)
    all[`mass:${of}:${mass.id}`] = {
      name: `the mass “${mass.name}”`,
      hash: partHash(mass, () => shape(mass)),
    };
  return all;
}

/** What differs between what a result was computed from and what stands now, one sentence each; empty when nothing. */
export function signatureChanges(then: Signature, now: Signature): string[] {
  const sentence = (name: string, verb: string) => `${name[0]!.toUpperCase()}${name.slice(1)} ${verb}.`;
  const changes: string[] = [];
  for (const [key, part] of Object.entries(now)) {
    const before = then[key];
    if (!before) changes.push(sentence(part.name, 'is new'));
    else if (before.hash !== part.hash) changes.push(sentence(part.name, 'was changed'));
  }
  for (const [key, part] of Object.entries(then))
    if (!now[key]) changes.push(sentence(part.name, 'was removed'));
  return changes;
}
