import { changedSince, SWEEP_METHOD, sweepMakes, type SweepKind, toBase64 } from '@dial-shade/core';
import { sweepSignature } from '../state/kept-sweeps';
import type { Sweep } from './sweep-store';

/** Floats that are kept of a device, and that were by the first method. */
const FLOATS = 6;
const FLOATS_AT_FIRST = 3;

/** A sweep as it is kept: its devices as the ranges that they were made of, what was found as numbers in base64. */
interface KeptSweep extends Pick<Sweep, 'optionId' | 'opening' | 'device' | 'numbers' | 'sets' | 'facts'> {
  kinds: readonly SweepKind[];
  signature: string;
  /** Number of the method of readings that it was run by; left out: the first. */
  method?: number;
  /**
   * Six floats a device: kept out, let in, sky, and what each may be off by; NaN where it has not come to it, or goes by no
   * wanted hours. By the first method three, without errors.
   */
  found: string;
}

/** What the last sweep of a device is kept under. */
export const keyOfSweep = (optionId: string, device: string) => `devices:${optionId}:${device}`;

/** A sweep as it is kept. */
export function sweepToKeep(sweep: Sweep, kinds: readonly SweepKind[]): KeptSweep {
  const { optionId, opening, device, numbers, sets, facts, parts, found } = sweep;
  const values = Float32Array.from(
    found.flatMap((one) =>
      one
        ? [one.keptOut, one.letIn ?? NaN, one.sky, one.error.keptOut, one.error.letIn, one.error.sky]
        : new Array<number>(FLOATS).fill(NaN),
    ),
  );
  return {
    ...{ optionId, opening, device, numbers, sets, facts, kinds },
    signature: sweepSignature(parts),
    method: SWEEP_METHOD.number,
    found: toBase64(new Uint8Array(values.buffer)),
  };
}

/** What was kept as a sweep; null where it cannot be read. */
export function sweepFromKept(kept: Record<string, unknown>, parts: readonly unknown[]): Sweep | null {
  try {
    const {
      optionId,
      opening,
      device,
      numbers,
      sets,
      facts,
      kinds,
      signature,
      method = 1,
      ...rest
    } = kept as unknown as KeptSweep;
    const { makes, leftOut } = sweepMakes(kinds);
    const bytes = Uint8Array.from(atob(rest.found), (letter) => letter.charCodeAt(0));
    const values = new Float32Array(bytes.buffer);
    const each = method === 1 ? FLOATS_AT_FIRST : FLOATS;
    if (values.length !== makes.length * each) return null;
    const found = makes.map((_, i) => {
      const [keptOut = NaN, letIn = NaN, sky = NaN, ...errors] = values.subarray(i * each, (i + 1) * each);
      if (Number.isNaN(keptOut)) return undefined;
      const [ofKept = 0, ofLetIn = 0, ofSky = 0] = errors;
      const error = { keptOut: ofKept, letIn: ofLetIn, sky: ofSky };
      return { keptOut, letIn: Number.isNaN(letIn) ? null : letIn, sky, error };
    });
    // What is kept under another signature is out of date: nothing is what it was run from.
    const from = signature === sweepSignature(parts) ? parts : parts.map(() => Symbol('changed'));
    const earlier = changedSince(SWEEP_METHOD, method);
    return {
      ...{ optionId, opening, device, numbers, sets, facts, makes, leftOut, found, earlier },
      parts: from,
    };
  } catch {
    return null;
  }
}
