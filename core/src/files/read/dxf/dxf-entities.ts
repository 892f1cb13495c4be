import { dxfName, dxfPairs, type Pair } from './dxf-text';

/** A record of a drawing with its fields in their order, and what follows it and belongs to it: corners, attributes. */
export interface DxfRecord {
  type: string;
  fields: Pair[];
  parts: DxfRecord[];
}

/** A layer as it is set in the drawing. */
export interface DxfLayer {
  state: 'frozen' | 'off' | null;
  /** By its number in the format’s list. */
  colour: number;
}

/** What a block holds, and about which point. */
export type DxfBlock = DxfRecord[] & {
  base?: readonly [number, number, number];
  /** Name of another drawing that it stands for, where that is only referred to. */
  drawing?: string;
};

/** A drawing taken apart. */
export interface Drawing {
  /** First value of each header variable. */
  header: Map<string, string>;
  layers: Map<string, DxfLayer>;
  blocks: Map<string, DxfBlock>;
  /** Whether the file ends as it should. */
  isWhole: boolean;
}

/** The value of a field, or of the first of several. */
export function field(record: DxfRecord, code: number): string | null {
  return record.fields.find(([other]) => other === code)?.[1] ?? null;
}

/** A number of a record; otherwise where it has none. */
export function numberOf(record: DxfRecord, code: number, otherwise = 0): number {
  const value = field(record, code);
  const number = value === null ? NaN : Number(value);
  return Number.isFinite(number) ? number : otherwise;
}

export function numbersOf(record: DxfRecord, code: number): number[] {
  return record.fields.flatMap(([other, value]) => (other === code ? [Number(value)] : []));
}

/** Points of a record by their first code: x, and y and z ten and twenty further on. */
export function pointsOf(record: DxfRecord, code = 10): [number, number, number][] {
  const points: [number, number, number][] = [];
  for (const [other, value] of record.fields) {
    if (other === code) points.push([Number(value), 0, 0]);
    const last = points.at(-1);
    if (!last) continue;
    if (other === code + 10) last[1] = Number(value);
    else if (other === code + 20) last[2] = Number(value);
  }
  return points;
}

export function pointOf(record: DxfRecord, code: number): [number, number, number] | null {
  return pointsOf(record, code)[0] ?? null;
}

export const layerOf = (record: DxfRecord): string => dxfName(field(record, 8) ?? '0');

/** Records that are parts of the one before them. */
const PARTS: Readonly<Record<string, readonly string[]>> = {
  POLYLINE: ['VERTEX'],
  INSERT: ['ATTRIB'],
};

/** Whether a block stands for another drawing: referred to, or laid over. */
const isReference = (block: DxfRecord) => (numberOf(block, 70) & 12) !== 0;

/** The name of a file without the folders that lead to it. */
const fileName = (path: string) => (path === '' ? '' : dxfName(path.split(/[/\\]/).at(-1)!));

/** Handles, line types, pictures and what else nothing here asks for: of a large drawing they are half of all. */
const isRead = (type: string, code: number): boolean =>
  code < 1000 &&
  !(code >= 310 && code < 420) &&
  ![5, 6, 48, 100, 102, 105].includes(code) &&
  !(code === 43 && type === 'LWPOLYLINE');

/**
 * Takes the text of a drawing apart. Throws InputError `dxf`.
 * @param take is given each record of the drawing itself when it is whole, with what was read before it: blocks, as the format
 * has them, and layers. None is kept, so that a large drawing is never in memory at once.
 */
export function readDrawing(text: string, take: (record: DxfRecord, drawing: Drawing) => void): Drawing {
  const drawing: Drawing = {
    ...{ header: new Map(), layers: new Map(), blocks: new Map(), isWhole: false },
  };
  let section = '';
  let variable = '';
  let block: DxfBlock | null = null;
  let record: DxfRecord | null = null;
  /** What following corners or attributes belong to. */
  let whole: DxfRecord | null = null;
  let entity: DxfRecord | null = null;
  const giveEntity = () => {
    const done = entity;
    entity = null;
    if (done) take(done, drawing);
  };
  const close = () => {
    const done = record;
    record = null;
    if (!done) return;
    if (done.type === 'LAYER') {
      const [flags, colour] = [numberOf(done, 70), numberOf(done, 62, 7)];
      const state = (flags & 1) === 1 ? 'frozen' : colour < 0 ? 'off' : null;
      drawing.layers.set(dxfName(field(done, 2) ?? '0'), { state, colour: Math.abs(colour) });
    } else if (done.type === 'BLOCK') {
      const name = dxfName(field(done, 2) ?? '');
      block = Object.assign([] as DxfRecord[], {
        base: pointOf(done, 10) ?? ([0, 0, 0] as const),
        ...(isReference(done) && { drawing: fileName(field(done, 1) ?? '') || name }),
      });
      drawing.blocks.set(name.toLowerCase(), block);
    }
  };
  const begin = (type: string) => {
    close();
    if (type === 'SEQEND') {
      whole = null;
      return;
    }
    const made: DxfRecord = { type, fields: [], parts: [] };
    record = made;
    if (whole && PARTS[whole.type]!.includes(type)) {
      whole.parts.push(made);
      return;
    }
    whole = null;
    giveEntity();
    if (type === 'BLOCK' || type === 'ENDBLK' || type === 'SECTION') {
      if (type === 'ENDBLK') block = null;
      if (type === 'SECTION') section = '';
      return;
    }
    if (section === 'ENTITIES') entity = made;
    else if (section === 'BLOCKS') block?.push(made);
    if (PARTS[type]) whole = made;
  };
  for (const pair of dxfPairs(text)) {
    const [code, value] = pair;
    if (code === 0) {
      if (value === 'EOF') {
        drawing.isWhole = true;
        break;
      }
      if (value === 'ENDSEC') {
        close();
        giveEntity();
        section = '';
        block = whole = null;
      } else begin(value);
      continue;
    }
    const here = record as DxfRecord | null;
    // Only the first names the section: variables of the header hold names by the same code.
    if (section === '' && here?.type === 'SECTION' && code === 2) section = value;
    else if (section === 'HEADER') {
      if (code === 9) variable = value;
      else if (!drawing.header.has(variable)) drawing.header.set(variable, value);
    } else if (here && isRead(here.type, code)) here.fields.push(pair);
  }
  close();
  giveEntity();
  return drawing;
}
