import { type Face, faceAzimuthDeg, storeyWallName, wallName } from '../form';
import { bounds } from '../geometry';
import type { OpeningOutline, OpeningRule, RuleMake, Sector } from '../project';
import type { PartyPart } from './adjoining-body';
import { OPENING_MARGIN_M } from './fit';
import { freeSpans } from './party';

/** An outline that a rule makes, with a name that stays the same while the rule does. */
export interface MadeOutline {
  /** Unique within the face. */
  key: string;
  outline: OpeningOutline;
}

/** What gave way on a face because not everything asked for could be kept. */
export type Relaxation = 'sill' | 'head' | 'ratio' | 'spacing' | 'height' | 'none fits' | 'too many';

/** Openings that rules may make in one body. */
export const MAX_MADE = 20_000;

/** What a rule makes on one face. */
export interface MadeOnFace {
  outlines: MadeOutline[];
  relaxed: { what: Relaxation; asked: number; got: number }[];
}

/** The sector of 90° that an azimuth from true north lies in. */
export function sectorOf(azimuthDeg: number): Sector {
  return (['north', 'east', 'south', 'west'] as const)[Math.round(azimuthDeg / 90) % 4]!;
}

/**
 * Whether a rule is for a wall. Faces of meshes have no storeys; they are meant only where the mesh is among the owners
 * of the rule or the face among its walls.
 */
export function inScope(rule: OpeningRule, ownerId: string, face: Face, trueNorthDeg: number): boolean {
  const { host } = face;
  if (host.on === 'wall' && rule.make.by === 'door' && host.storey !== 0) return false;
  return isMeant(rule.scope, ownerId, face, trueNorthDeg);
}

/** Whether a scope means a wall. */
export function isMeant(
  scope: OpeningRule['scope'],
  ownerId: string,
  face: Face,
  trueNorthDeg: number,
): boolean {
  const { host } = face;
  const wall = wallName(ownerId, host);
  if (wall === null) return false;
  const { owners, sectors, storeys, walls, except } = scope;
  if (owners && !owners.includes(ownerId)) return false;
  if (walls && !walls.includes(wall)) return false;
  if (except.length && except.includes(storeyWallName(ownerId, host)!)) return false;
  if (host.on === 'mesh' && !owners && !walls) return false;
  if (host.on === 'wall' && storeys && !storeys.includes(host.storey)) return false;
  const azimuth = faceAzimuthDeg(face.normal, trueNorthDeg);
  return !sectors || (azimuth !== null && sectors.includes(sectorOf(azimuth)));
}

/** What a rule makes on a wall, on the stretches that no other body covers. */
export function makeOnFace(
  make: RuleMake,
  face: Face,
  parties: readonly PartyPart[],
  ownerId: string,
): MadeOnFace {
  const made: MadeOnFace = { outlines: [], relaxed: [] };
  const { minX: from, maxX: to } = bounds(face.outline);
  for (const [u0, u1] of freeSpans(to - from, parties, 0, face.heightM)) {
    if (make.by === 'ratio') byRatio(make, face, u0, u1, made);
    else if (make.by === 'size') bySize(make, face, u0, u1, made);
    else if (make.by === 'door') byDoor(make, face, u0, u1, made);
    else byPanels(make, face, u0, u1, ownerId, made);
  }
  return made;
}

function rectangle(u: number, v: number, widthM: number, heightM: number): OpeningOutline {
  return { kind: 'rectangle', u, v, widthM, heightM };
}

const MARGIN = OPENING_MARGIN_M;
/** Least height and width of a light, metres. */
const LEAST = 0.1;

function byRatio(
  make: Extract<RuleMake, { by: 'ratio' }>,
  face: Face,
  u0: number,
  u1: number,
  made: MadeOnFace,
): void {
  if (make.ratio === 0) return;
  const length = u1 - u0;
  const height = face.heightM;
  const lights = make.bayM > 0 ? Math.max(1, Math.round(length / make.bayM)) : 1;
  const bay = length / lights;
  const widest = bay - 2 * Math.max(make.jambM, MARGIN);
  if (widest < LEAST) {
    made.relaxed.push({ what: 'none fits', asked: make.ratio, got: 0 });
    return;
  }
  const area = (make.ratio * length * height) / lights;
  let head = Math.max(Math.min(make.headM, height - MARGIN), MARGIN + LEAST);
  let sill = Math.max(MARGIN, Math.min(make.sillM, head - LEAST));
  let width = area / (head - sill);
  if (width > widest) {
    width = widest;
    const wanted = area / width;
    sill = Math.max(MARGIN, head - wanted);
    head = Math.min(height - MARGIN, sill + wanted);
  }
  const ratio = (lights * width * (head - sill)) / (length * height);
  const gave = (what: Relaxation, asked: number, got: number) => {
    if (Math.abs(asked - got) > 1e-6) made.relaxed.push({ what, asked, got });
  };
  gave('sill', make.sillM, sill);
  gave('head', make.headM, head);
  gave('ratio', make.ratio, ratio);
  for (let i = 0; i < lights; i++)
    made.outlines.push({
      key: `${made.outlines.length}`,
      outline: rectangle(u0 + bay * (i + 0.5) - width / 2, sill, width, head - sill),
    });
}

function bySize(
  make: Extract<RuleMake, { by: 'size' }>,
  face: Face,
  u0: number,
  u1: number,
  made: MadeOnFace,
): void {
  const side = Math.max(make.jambM, MARGIN);
  const room = u1 - u0 - 2 * side - make.widthM;
  if (room < -1e-9) {
    made.relaxed.push({ what: 'none fits', asked: make.widthM, got: 0 });
    return;
  }
  const spacing = Math.max(make.spacingM, make.widthM + MARGIN);
  const lights = Math.floor(room / spacing + 1e-9) + 1;
  const height = Math.min(make.heightM, face.heightM - 2 * MARGIN);
  const sill = Math.max(MARGIN, Math.min(make.sillM, face.heightM - MARGIN - height));
  const gave = (what: Relaxation, asked: number, got: number) => {
    if (Math.abs(asked - got) > 1e-6) made.relaxed.push({ what, asked, got });
  };
  gave('spacing', make.spacingM, spacing);
  gave('sill', make.sillM, sill);
  gave('height', make.heightM, height);
  const first = (u0 + u1) / 2 - ((lights - 1) * spacing) / 2 - make.widthM / 2;
  for (let i = 0; i < lights; i++)
    made.outlines.push({
      key: `${made.outlines.length}`,
      outline: rectangle(first + i * spacing, sill, make.widthM, height),
    });
}

function byDoor(
  make: Extract<RuleMake, { by: 'door' }>,
  face: Face,
  u0: number,
  u1: number,
  made: MadeOnFace,
): void {
  const side = Math.max(make.jambM, MARGIN);
  const height = Math.min(make.heightM, face.heightM - 2 * MARGIN);
  if (u1 - u0 - 2 * side < make.widthM - 1e-9) {
    made.relaxed.push({ what: 'none fits', asked: make.widthM, got: 0 });
    return;
  }
  if (height < make.heightM - 1e-6) made.relaxed.push({ what: 'height', asked: make.heightM, got: height });
  made.outlines.push({
    key: `${made.outlines.length}`,
    outline: rectangle((u0 + u1 - make.widthM) / 2, MARGIN, make.widthM, height),
  });
}

function byPanels(
  make: Extract<RuleMake, { by: 'panels' }>,
  face: Face,
  u0: number,
  u1: number,
  ownerId: string,
  made: MadeOnFace,
): void {
  const columns = Math.floor((u1 - u0 - make.barM) / make.panelWidthM + 1e-9);
  const rows = Math.floor((face.heightM - make.barM) / make.panelHeightM + 1e-9);
  const wall = storeyWallName(ownerId, face.host);
  if (columns < 1 || rows < 1 || wall === null) {
    made.relaxed.push({ what: 'none fits', asked: make.panelWidthM, got: 0 });
    return;
  }
  if (columns * rows > MAX_MADE) {
    made.relaxed.push({ what: 'too many', asked: columns * rows, got: 0 });
    return;
  }
  const bar = Math.max(make.barM, MARGIN);
  const left = (u0 + u1 - columns * make.panelWidthM) / 2;
  const foot = (face.heightM - rows * make.panelHeightM) / 2;
  const width = make.panelWidthM - bar;
  const height = make.panelHeightM - bar;
  if (width < 0.05 || height < 0.05) return;
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const key = panelKey(wall, column, row);
      const open = chance(`${make.seed}/${key}`) < make.density;
      if (open === make.turned.includes(key)) continue;
      made.outlines.push({
        key: `${column}-${row}`,
        outline: rectangle(
          left + column * make.panelWidthM + bar / 2,
          foot + row * make.panelHeightM + bar / 2,
          width,
          height,
        ),
      });
    }
}

/** The name of a panel in a rule's list of panels turned over by hand; the wall by its `storeyWallName`. */
export function panelKey(wall: string, column: number, row: number): string {
  return `${wall}/${column}/${row}`;
}

/** The panel of a panel rule at a place of a wall, or null between and beyond them. */
export function panelAt(
  make: Extract<RuleMake, { by: 'panels' }>,
  face: Face,
  parties: readonly PartyPart[],
  [u, v]: readonly [number, number],
): { column: number; row: number } | null {
  const rows = Math.floor((face.heightM - make.barM) / make.panelHeightM + 1e-9);
  for (const [u0, u1] of freeSpans(face.lengthM, parties, 0, face.heightM)) {
    const columns = Math.floor((u1 - u0 - make.barM) / make.panelWidthM + 1e-9);
    const column = Math.floor((u - (u0 + u1 - columns * make.panelWidthM) / 2) / make.panelWidthM);
    const row = Math.floor((v - (face.heightM - rows * make.panelHeightM) / 2) / make.panelHeightM);
    if (column >= 0 && column < columns && row >= 0 && row < rows) return { column, row };
  }
  return null;
}

/** A number from 0 up to 1 that depends on nothing but the text (FNV-1a, then a mixing step). */
function chance(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return ((hash ^ (hash >>> 16)) >>> 0) / 4294967296;
}
