/** A reference to another entity of a STEP file. */
export interface StepReference {
  step: number;
}
/** A name of a choice, as `.METRE.`; or a value with its type, as `IFCLABEL('x')`, ready as it is. */
export interface StepWord {
  word: string;
}
/** What an entity is given: `null` for what is left out, `undefined` for what is derived. */
export type StepValue =
  | StepReference
  | StepWord
  | { whole: number }
  | number
  | string
  | null
  | undefined
  | readonly StepValue[];

export const word = (text: string): StepWord => ({ word: `.${text}.` });
export const whole = (number: number): StepValue => ({ whole: number });

/** Entities of a STEP physical file (ISO 10303-21), numbered as they are added. */
export class StepText {
  private readonly lines: string[] = [];

  add(type: string, ...values: StepValue[]): StepReference {
    const step = this.lines.length + 1;
    this.lines.push(`#${step}=${type}(${values.map(inStep).join(',')});`);
    return { step };
  }

  /** The whole file. */
  file(schema: string, name: string, madeAt: string): Uint8Array {
    return new TextEncoder().encode(
      [
        'ISO-10303-21;',
        'HEADER;',
        "FILE_DESCRIPTION(('ViewDefinition [DesignTransferView_V1.0]'),'2;1');",
        `FILE_NAME(${inStep(name)},${inStep(madeAt)},(''),(''),'Dial Shade','Dial Shade','');`,
        `FILE_SCHEMA((${inStep(schema)}));`,
        'ENDSEC;',
        'DATA;',
        ...this.lines,
        'ENDSEC;',
        'END-ISO-10303-21;',
        '',
      ].join('\n'),
    );
  }
}

function inStep(value: StepValue): string {
  if (value === null) return '$';
  if (value === undefined) return '*';
  if (typeof value === 'number') return real(value);
  if (typeof value === 'string') return text(value);
  if (Array.isArray(value)) return `(${(value as readonly StepValue[]).map(inStep).join(',')})`;
  const one = value as StepReference | StepWord | { whole: number };
  if ('step' in one) return `#${one.step}`;
  return 'word' in one ? one.word : String(Math.round(one.whole));
}

/** A real number always has a point. */
function real(value: number): string {
  const plain = String(Number(value.toPrecision(15)) + 0).toUpperCase();
  if (!plain.includes('E')) return plain.includes('.') ? plain : `${plain}.`;
  const [mantissa, power] = plain.split('E');
  return `${mantissa!.includes('.') ? mantissa : `${mantissa}.`}E${power}`;
}

/** Text between apostrophes; what is not plain ASCII by its code units. */
function text(value: string): string {
  const escaped = value
    .replace(/[\\']/g, (c) => c + c)
    .replace(/[^\x20-\x7e]+/g, (run) => {
      const units = Array.from({ length: run.length }, (_, i) =>
        run.charCodeAt(i).toString(16).toUpperCase(),
      );
      return `\\X2\\${units.map((unit) => unit.padStart(4, '0')).join('')}\\X0\\`;
    });
  return `'${escaped}'`;
}
