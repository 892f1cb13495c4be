import { InputError } from '../../errors';

const HASH = 35;
const QUOTE = 39;
const OPEN = 40;
const CLOSE = 41;
const SEMICOLON = 59;
const EQUALS = 61;
const SLASH = 47;
const STAR = 42;
const COMMA = 44;
const DOLLAR = 36;

function isBreak(c: number): boolean {
  return c <= 32 || c === COMMA || c === OPEN || c === CLOSE || c === SEMICOLON;
}

function isWordByte(c: number): boolean {
  return (c >= 48 && c <= 57) || (c >= 65 && c <= 90) || (c >= 97 && c <= 122) || c === 95 || c === 45;
}

/**
 * Checks that a file of the STEP text form (ISO 10303-21) is whole, before a reader that trusts it sees it: every
 * instance closed, no number named twice, no reference to what is not there, no instance that leads back to itself.
 * Throws InputError `ifc` with the line.
 */
export function checkStep(bytes: Uint8Array): void {
  const scan = new StepScan(bytes);
  scan.run();
  scan.checkReferences();
}

class StepScan {
  private at = 0;
  private line = 1;
  private inData = false;
  private ended = false;
  /** Instances by number, with the instances that each names. */
  private readonly names = new Map<number, number[]>();

  constructor(private readonly bytes: Uint8Array) {}

  private fail(what: string): never {
    throw new InputError('ifc', `The IFC file is not sound: line ${this.line}: ${what}; export it again.`);
  }

  run(): void {
    while (this.at < this.bytes.length) this.statement();
    if (!this.ended) this.fail('the file is cut off');
  }

  /** One statement up to its semicolon: a keyword, or `#number = NAME(…)`. */
  private statement(): void {
    const { bytes } = this;
    this.skipBlank();
    if (this.at >= bytes.length) return;
    let own = -1;
    if (bytes[this.at] === HASH) {
      own = this.number();
      this.skipBlank();
      if (bytes[this.at++] !== EQUALS) this.fail(`#${own} stands where no instance can stand`);
      this.skipBlank();
    }
    const name = this.word();
    this.skipBlank();
    const named: number[] = [];
    if (bytes[this.at] === OPEN) this.list(named);
    else if (own >= 0) this.fail(`#${own} has no brackets`);
    this.skipBlank();
    if (bytes[this.at++] !== SEMICOLON) this.fail('a statement has no end');
    this.keyword(name);
    if (own < 0) return;
    if (!this.inData) this.fail(`#${own} stands where no instance can stand`);
    if (this.names.has(own)) this.fail(`#${own} is there twice`);
    this.names.set(own, named);
  }

  /** Values in brackets, separated by commas; brackets may lie within one another. */
  private list(named: number[]): void {
    const { bytes } = this;
    let depth = 0;
    let wantsValue = true;
    do {
      this.skipBlank();
      const c = bytes[this.at];
      if (c === undefined) this.fail('a bracket is not closed');
      if (wantsValue && c === OPEN) {
        depth++;
        this.at++;
        this.skipBlank();
        if (depth > 60) this.fail('brackets lie too deep');
        if (bytes[this.at] === CLOSE) wantsValue = false;
      } else if (wantsValue) wantsValue = this.value(named);
      else if (c === COMMA) {
        this.at++;
        wantsValue = true;
      } else if (c === CLOSE) {
        this.at++;
        depth--;
      } else this.fail('a comma or a bracket is missing');
    } while (depth > 0);
  }

  /** One value; true when it is the name of a type, whose value in brackets follows. */
  private value(named: number[]): boolean {
    const { bytes } = this;
    const c = bytes[this.at]!;
    if (c === HASH) named.push(this.number());
    else if (c === QUOTE) this.skipString();
    else if (c === DOLLAR || c === STAR) this.at++;
    else {
      const start = this.at;
      while (this.at < bytes.length && !isBreak(bytes[this.at]!)) this.at++;
      const text = String.fromCharCode(...bytes.subarray(start, Math.min(this.at, start + 400)));
      if (/^[A-Za-z_][A-Za-z0-9_]*$/.test(text)) {
        this.skipBlank();
        if (bytes[this.at] !== OPEN) this.fail(`“${text.slice(0, 30)}” is no value`);
        return true;
      }
      const isEnum = /^\.[A-Za-z_][A-Za-z0-9_]*\.$/.test(text);
      const isNumber = /^[+-]?\d+(\.\d*)?([eE][+-]?\d+)?$/.test(text) && Number.isFinite(Number(text));
      if (!isEnum && !isNumber && !/^"[0-9A-F]+"$/.test(text)) this.fail('a value cannot be read');
    }
    return false;
  }

  private word(): string {
    const start = this.at;
    while (this.at < this.bytes.length && isWordByte(this.bytes[this.at]!)) this.at++;
    if (this.at === start || this.at - start > 80) this.fail('a keyword is missing');
    return String.fromCharCode(...this.bytes.subarray(start, this.at));
  }

  private keyword(name: string): void {
    if (name === 'DATA') this.inData = true;
    else if (name === 'ENDSEC') this.inData = false;
    else if (name === 'END-ISO-10303-21') this.ended = true;
  }

  private skipBlank(): void {
    const { bytes } = this;
    for (;;) {
      const c = bytes[this.at];
      if (c === undefined || c > 32) {
        if (c !== SLASH || bytes[this.at + 1] !== STAR) return;
        this.skipComment();
      }
      if (c === 10) this.line++;
      this.at++;
    }
  }

  private number(): number {
    let value = 0;
    const first = ++this.at;
    for (let c = this.bytes[this.at]!; c >= 48 && c <= 57; c = this.bytes[++this.at]!)
      value = value * 10 + c - 48;
    if (this.at === first || value > 4_000_000_000 || value === 0)
      this.fail('an instance has no sound number');
    return value;
  }

  /** To the closing quote; a doubled one belongs to the text. */
  private skipString(): void {
    const from = this.line;
    for (this.at++; this.at < this.bytes.length; this.at++) {
      if (this.bytes[this.at] === 10) this.line++;
      if (this.bytes[this.at] !== QUOTE) continue;
      this.at++;
      if (this.bytes[this.at] !== QUOTE) return;
    }
    this.line = from;
    this.fail('a text is not closed');
  }

  private skipComment(): void {
    for (this.at += 2; this.at < this.bytes.length; this.at++) {
      if (this.bytes[this.at] === 10) this.line++;
      if (this.bytes[this.at] === STAR && this.bytes[this.at + 1] === SLASH) {
        this.at++;
        return;
      }
    }
    this.fail('a remark is not closed');
  }

  /** Every name leads somewhere, and no way leads back to where it began. */
  checkReferences(): void {
    const state = new Map<number, 1 | 2>();
    for (const root of this.names.keys()) {
      if (state.has(root)) continue;
      const way: { id: number; next: number }[] = [{ id: root, next: 0 }];
      state.set(root, 1);
      while (way.length) {
        const top = way.at(-1)!;
        const names = this.names.get(top.id)!;
        if (top.next >= names.length) {
          state.set(top.id, 2);
          way.pop();
          continue;
        }
        const id = names[top.next++]!;
        if (!this.names.has(id))
          throw new InputError(
            'ifc',
            `The IFC file is not sound: #${top.id} names #${id}, which is not there.`,
          );
        if (state.get(id) === 1)
          throw new InputError('ifc', `The IFC file is not sound: #${id} leads back to itself.`);
        if (state.has(id)) continue;
        state.set(id, 1);
        way.push({ id, next: 0 });
      }
    }
  }
}
