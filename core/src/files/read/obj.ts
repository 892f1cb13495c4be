import earcut from 'earcut';
import { decodedText } from '../../civil';
import { InputError } from '../../errors';
import { doubled, type Mesh } from '../../geometry';
import { MAX_TRIANGLES, tooMany } from '../mesh-bytes';
import { MAX_COORDINATE } from '../mesh-gather';
import { cleanName } from '../model-file';

/** Bytes that an OBJ file may have. */
export const MAX_OBJ_BYTES = 200 * 1024 * 1024;

/** What an OBJ file holds, in its own units and axes. */
export interface ObjModel {
  mesh: Mesh;
  /** Names of groups and objects, in order, with the first triangle of each. */
  groups: { name: string; firstTriangle: number }[];
  /** Faces left out because they have no area. */
  flatFaces: number;
}

const SPACE = 32,
  TAB = 9,
  CR = 13,
  LF = 10,
  HASH = 35,
  SLASH = 47,
  BACKSLASH = 92;

/**
 * Reads a Wavefront OBJ file (v, f, g and o lines; texture and normal references are skipped; other lines are ignored).
 * Polygons are triangulated. Throws InputError `obj` with the line number, `too-large` or `too-many-triangles`.
 * @param progress called now and then with the share read; return false to stop
 */
export function readObj(bytes: Uint8Array, progress?: (share: number) => boolean | void): ObjModel {
  if (bytes.length > MAX_OBJ_BYTES)
    throw new InputError(
      'too-large',
      `The file has ${Math.round(bytes.length / 1048576)} MB; at most ${MAX_OBJ_BYTES / 1048576} MB can be read. Leave out what is far from the site.`,
    );
  if (bytes.length === 0) throw new InputError('obj', 'The file is empty.');
  for (let i = 0; i < Math.min(bytes.length, 4096); i++)
    if (bytes[i] === 0) throw new InputError('obj', 'This is a binary file, not an OBJ text file.');
  return new ObjReader(withLineFeeds(bytes)).read(progress);
}

/** Lines may end with a carriage return alone. */
function withLineFeeds(bytes: Uint8Array): Uint8Array {
  if (bytes.includes(LF) || !bytes.includes(CR)) return bytes;
  return bytes.map((byte) => (byte === CR ? LF : byte));
}

class ObjReader {
  private at = 0;
  private line = 1;
  private positions: Float64Array = new Float64Array(3 * 4096);
  private vertexCount = 0;
  private triangles: Uint32Array = new Uint32Array(3 * 4096);
  private triangleCount = 0;
  private flatFaces = 0;
  private readonly groups: ObjModel['groups'] = [];
  private corners: number[] = [];

  constructor(private readonly bytes: Uint8Array) {}

  read(progress?: (share: number) => boolean | void): ObjModel {
    const { bytes } = this;
    while (this.at < bytes.length) {
      if ((this.line & 0x3fff) === 0 && progress?.(this.at / bytes.length) === false)
        throw new InputError('stopped', 'Reading was stopped.');
      this.skipBlanks();
      const c = bytes[this.at];
      const next = bytes[this.at + 1];
      const separated = next === SPACE || next === TAB;
      if (c === 118 && separated) this.vertex();
      else if (c === 102 && separated) this.face();
      else if ((c === 103 || c === 111) && (separated || next === CR || next === LF)) this.group();
      this.nextLine();
    }
    if (this.triangleCount === 0)
      throw new InputError(
        'obj',
        this.vertexCount === 0
          ? 'The file holds no vertices and no faces; is it an OBJ file?'
          : `The file holds ${this.vertexCount} vertices but no faces; export surfaces, not only points or lines.`,
      );
    return {
      mesh: {
        positions: this.positions.slice(0, this.vertexCount * 3),
        triangles: this.triangles.slice(0, this.triangleCount * 3),
      },
      groups: this.groups.filter((group) => group.firstTriangle < this.triangleCount),
      flatFaces: this.flatFaces,
    };
  }

  private fail(what: string): never {
    throw new InputError('obj', `Line ${this.line}: ${what}.`);
  }

  private skipBlanks(): void {
    const { bytes } = this;
    for (;;) {
      const c = bytes[this.at];
      if (c === SPACE || c === TAB || c === CR) this.at++;
      else if (
        c === BACKSLASH &&
        (bytes[this.at + 1] === LF || (bytes[this.at + 1] === CR && bytes[this.at + 2] === LF))
      ) {
        this.at += bytes[this.at + 1] === LF ? 2 : 3;
        this.line++;
      } else return;
    }
  }

  private nextLine(): void {
    const { bytes } = this;
    while (this.at < bytes.length && bytes[this.at] !== LF) this.at++;
    this.at++;
    this.line++;
  }

  private atEnd(): boolean {
    const c = this.bytes[this.at];
    return c === undefined || c === LF || c === HASH;
  }

  private word(): string {
    const start = this.at;
    const { bytes } = this;
    while (this.at < bytes.length && bytes[this.at]! > SPACE && this.at - start < 64) this.at++;
    return String.fromCharCode(...bytes.subarray(start, this.at));
  }

  private vertex(): void {
    this.at++;
    if (this.positions.length < (this.vertexCount + 1) * 3) this.positions = doubled(this.positions);
    for (let k = 0; k < 3; k++) {
      this.skipBlanks();
      if (this.atEnd()) this.fail(`a vertex has only ${k} of its 3 coordinates`);
      const word = this.word();
      const value = Number(word);
      if (!Number.isFinite(value)) this.fail(`“${word}” is not a coordinate`);
      if (Math.abs(value) > MAX_COORDINATE) this.fail(`the coordinate ${word} is too large`);
      this.positions[this.vertexCount * 3 + k] = value;
    }
    this.vertexCount++;
  }

  private face(): void {
    this.at++;
    const { corners } = this;
    corners.length = 0;
    for (;;) {
      this.skipBlanks();
      if (this.atEnd()) break;
      corners.push(this.index());
      if (corners.length > 10_000) this.fail('a face has more than 10,000 corners');
    }
    if (corners.length < 3) this.flatFaces++;
    else if (corners.length === 3) this.triangle(corners[0]!, corners[1]!, corners[2]!);
    else this.polygon(corners);
  }

  private index(): number {
    const { bytes } = this;
    const start = this.at;
    const negative = bytes[this.at] === 45;
    if (negative) this.at++;
    let value = 0;
    const first = this.at;
    for (let c = bytes[this.at]!; c >= 48 && c <= 57; c = bytes[++this.at]!) value = value * 10 + (c - 48);
    const end = bytes[this.at];
    if (this.at === first || (end !== undefined && end > SPACE && end !== SLASH)) {
      this.at = start;
      this.fail(`“${this.word()}” is not a vertex number`);
    }
    while (this.at < bytes.length && bytes[this.at]! > SPACE) this.at++;
    const vertex = negative ? this.vertexCount - value : value - 1;
    if (vertex < 0 || vertex >= this.vertexCount)
      this.fail(
        `a face names vertex ${negative ? -value : value}, but ${this.vertexCount} ${this.vertexCount === 1 ? 'vertex stands' : 'vertices stand'} before it`,
      );
    return vertex;
  }

  private triangle(a: number, b: number, c: number): void {
    if (a === b || b === c || a === c || !this.hasArea(a, b, c)) {
      this.flatFaces++;
      return;
    }
    if (this.triangleCount >= MAX_TRIANGLES) throw tooMany(this.countRest());
    if (this.triangles.length < (this.triangleCount + 1) * 3) this.triangles = doubled(this.triangles);
    this.triangles[this.triangleCount * 3] = a;
    this.triangles[this.triangleCount * 3 + 1] = b;
    this.triangles[this.triangleCount * 3 + 2] = c;
    this.triangleCount++;
  }

  private hasArea(a: number, b: number, c: number): boolean {
    const p = this.positions;
    const ux = p[b * 3]! - p[a * 3]!,
      uy = p[b * 3 + 1]! - p[a * 3 + 1]!,
      uz = p[b * 3 + 2]! - p[a * 3 + 2]!;
    const vx = p[c * 3]! - p[a * 3]!,
      vy = p[c * 3 + 1]! - p[a * 3 + 1]!,
      vz = p[c * 3 + 2]! - p[a * 3 + 2]!;
    return uy * vz !== uz * vy || uz * vx !== ux * vz || ux * vy !== uy * vx;
  }

  /** Triangulates a polygon in the plane that its corners lie closest to (Newell's normal). */
  private polygon(corners: number[]): void {
    const p = this.positions;
    let nx = 0,
      ny = 0,
      nz = 0;
    corners.forEach((a, i) => {
      const b = corners[(i + 1) % corners.length]!;
      nx += (p[a * 3 + 1]! - p[b * 3 + 1]!) * (p[a * 3 + 2]! + p[b * 3 + 2]!);
      ny += (p[a * 3 + 2]! - p[b * 3 + 2]!) * (p[a * 3]! + p[b * 3]!);
      nz += (p[a * 3]! - p[b * 3]!) * (p[a * 3 + 1]! + p[b * 3 + 1]!);
    });
    const drop =
      Math.abs(nx) > Math.abs(ny)
        ? Math.abs(nx) > Math.abs(nz)
          ? 0
          : 2
        : Math.abs(ny) > Math.abs(nz)
          ? 1
          : 2;
    const u = drop === 0 ? 1 : 0;
    const v = drop === 2 ? 1 : 2;
    const normal = [nx, ny, nz][drop]!;
    const flat = corners.flatMap((c) => [p[c * 3 + u]!, p[c * 3 + v]!]);
    const indices = earcut(flat);
    if (indices.length === 0) this.flatFaces++;
    const swap = (drop === 1) !== normal < 0;
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [corners[indices[i]!]!, corners[indices[i + 1]!]!, corners[indices[i + 2]!]!];
      const turned =
        (flat[2 * indices[i + 1]!]! - flat[2 * indices[i]!]!) *
          (flat[2 * indices[i + 2]! + 1]! - flat[2 * indices[i]! + 1]!) -
          (flat[2 * indices[i + 1]! + 1]! - flat[2 * indices[i]! + 1]!) *
            (flat[2 * indices[i + 2]!]! - flat[2 * indices[i]!]!) >
        0;
      if (turned !== swap) this.triangle(a, b, c);
      else this.triangle(a, c, b);
    }
  }

  private group(): void {
    this.at++;
    this.skipBlanks();
    const start = this.at;
    while (!this.atEnd() && this.bytes[this.at] !== CR) this.at++;
    const name = cleanName(
      decodedText(this.bytes.subarray(start, Math.min(this.at, start + 400)), true).text,
      '',
    );
    const last = this.groups.at(-1);
    if (last && last.firstTriangle === this.triangleCount) last.name = name || last.name;
    else
      this.groups.push({
        name: name || `Group ${this.groups.length + 1}`,
        firstTriangle: this.triangleCount,
      });
  }

  /** Triangles in the whole file, counted roughly for the message once there are too many. */
  private countRest(): number {
    let count = this.triangleCount;
    const { bytes } = this;
    for (let i = this.at; i < bytes.length; i++)
      if (bytes[i] === 102 && bytes[i - 1] === LF && (bytes[i + 1] === SPACE || bytes[i + 1] === TAB))
        count++;
    return count + 1;
  }
}
