import { contentHash, sweepMakes, type SweepKind } from '@dial-shade/core';
import type { Sweep } from './sweep-store';

/** Sweeps that the browser keeps. */
const MAX_KEPT = 8;
const KEY = 'dial-shade:sweeps';

/** A sweep as it is kept: its devices as the ranges that they were made of, what was found as numbers in base64. */
interface KeptSweep extends Pick<Sweep, 'optionId' | 'opening' | 'device' | 'numbers' | 'sets' | 'facts'> {
  projectId: string;
  kinds: readonly SweepKind[];
  signature: string;
  /** Three floats a device: kept out, let in, sky; NaN where it has not come to it, or goes by no wanted hours. */
  found: string;
}

/** Hash of what a sweep was run from. */
const signatureOf = (parts: readonly unknown[]) =>
  contentHash(parts.filter((part) => !(part instanceof Map)));

function keptSweeps(): KeptSweep[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? (kept as KeptSweep[]) : [];
  } catch {
    return [];
  }
}

const isSame =
  (projectId: string, optionId: string, device: string) =>
  (one: KeptSweep): boolean =>
    one.projectId === projectId && one.optionId === optionId && one.device === device;

/** Keeps a sweep in the browser, in place of the last one of its device; the oldest goes where there are too many. */
export function keepSweep(projectId: string, sweep: Sweep, kinds: readonly SweepKind[]): void {
  const { optionId, opening, device, numbers, sets, facts, parts, found } = sweep;
  const values = Float32Array.from(
    found.flatMap((one) => (one ? [one.keptOut, one.letIn ?? NaN, one.sky] : [NaN, NaN, NaN])),
  );
  let bytes = '';
  for (const byte of new Uint8Array(values.buffer)) bytes += String.fromCharCode(byte);
  const kept: KeptSweep = {
    ...{ projectId, optionId, opening, device, numbers, sets, facts, kinds },
    signature: signatureOf(parts),
    found: btoa(bytes),
  };
  const others = keptSweeps().filter((one) => !isSame(projectId, optionId, device)(one));
  for (let most = MAX_KEPT - 1; most >= 0; most--)
    try {
      localStorage.setItem(KEY, JSON.stringify([kept, ...others.slice(0, most)]));
      return;
    } catch {
      // The page's store is full: fewer of the older ones.
    }
}

/** The sweep of a device that the browser keeps; null without, or where what is kept cannot be read. */
export function keptSweep(
  projectId: string,
  optionId: string,
  device: string,
  parts: readonly unknown[],
): Sweep | null {
  const kept = keptSweeps().find(isSame(projectId, optionId, device));
  if (!kept) return null;
  try {
    const { opening, numbers, sets, facts, kinds, signature } = kept;
    const { makes, leftOut } = sweepMakes(kinds);
    const bytes = Uint8Array.from(atob(kept.found), (letter) => letter.charCodeAt(0));
    const values = new Float32Array(bytes.buffer);
    if (values.length !== makes.length * 3) return null;
    const found = makes.map((_, i) => {
      const [keptOut, letIn, sky] = values.subarray(i * 3, i * 3 + 3) as unknown as [number, number, number];
      return Number.isNaN(keptOut) ? undefined : { keptOut, letIn: Number.isNaN(letIn) ? null : letIn, sky };
    });
    // What is kept under another signature is out of date: nothing is what it was run from.
    const from = signature === signatureOf(parts) ? parts : parts.map(() => Symbol('changed'));
    return { ...{ optionId, opening, device, numbers, sets, facts, makes, leftOut, found }, parts: from };
  } catch {
    return null;
  }
}
