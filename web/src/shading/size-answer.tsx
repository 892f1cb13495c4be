import { clockAt, type DeviceMake, formatClock, type FreeNumber } from '@dial-shade/core';
import { shortDate } from '../almanac/wording';
import type { BeamLetIn, RoomSizeFound, SizeFound } from '../workers/size-work';

/** What is asked for: so much of the glass in shade, so little sun on it, no sun deeper in the room, none on its furniture. */
export type Goal = 'glass' | 'kWh' | 'depth' | 'furniture';

const percent = (share: number) => `${(share * 100).toFixed(share > 0.995 || share < 0.005 ? 1 : 0)} %`;

export const nameOf = (free: FreeNumber, also: FreeNumber | null) =>
  also ? `${free.name} with ${also.name}` : free.name;

/** One number of a device that was found, or two. */
export interface Sizes {
  number: string;
  value: number;
  also: FreeNumber | null;
  second: number | null;
}

/** A device with the sizes that were found. */
export const makeOf = (make: DeviceMake, { number, value, also, second }: Sizes): DeviceMake =>
  ({ ...make, [number]: value, ...(also && { [also.number]: second }) }) as DeviceMake;

/** A number of a device with its unit. */
function readNumber(number: string, value: number): string {
  if (number.endsWith('Deg')) return `${value.toFixed(1)}°`;
  return number.endsWith('M') ? `${value.toFixed(3)} m` : value.toFixed(3);
}

/** The sizes that were found, in words. */
function readSizes({ number, value, also, second }: Sizes): string {
  const one = readNumber(number, value);
  return also && second !== null ? `${one} with ${also.name} ${readNumber(also.number, second)}` : one;
}

/** What was found, and what was asked for. */
export interface Found extends SizeFound, Sizes {
  /** What it lets in of sets of hours, once that is known. */
  sets: BeamLetIn[];
  value: number;
  second: number | null;
  what: string;
  /** Per cent in shade; null where kWh were asked for. */
  goal: number | null;
  each: boolean;
}

export function Answer({ found, zone, hang }: { found: Found; zone: string; hang: () => void }) {
  const { isMet, reading, moments, bare, endlessM, sets, wholeKWh, what, goal, each } = found;
  const read = readSizes(found);
  if (moments === 0)
    return <p data-testid="size-said">At none of these moments does the sun stand before this window.</p>;
  const least = reading.least && clockAt(reading.least.atMs, zone);
  const atLeast =
    least &&
    moments > 1 &&
    `${percent(reading.least!.share)} at its least, on ${shortDate(least.date)} at ${formatClock(least.minutes)}`;
  return (
    <div data-testid="size-said">
      <p className="mb-1">
        {isMet ? (
          <>
            <strong>{read}</strong> does it: {percent(reading.shaded)} of the glass in shade
            {atLeast && `, ${atLeast}`}.
          </>
        ) : (
          <>
            <strong>No size does it.</strong> The best that {what} gives, at {read}, is{' '}
            {each ? atLeast : `${percent(reading.shaded)} in shade`}
            {goal !== null && `, of the ${goal} % asked`}: {hint(found)}.
          </>
        )}
      </p>
      <p className="visually-quiet mb-1">
        {wholeKWh !== null &&
          `${Math.round(wholeKWh * (1 - reading.shaded)).toLocaleString('en')} of ${Math.round(wholeKWh).toLocaleString('en')} kWh reach it. `}
        Without it {percent(bare)}.
        {endlessM !== null &&
          Number.isFinite(endlessM) &&
          ` Endless, ${endlessM.toFixed(2)} m would be needed (closed form).`}{' '}
        {moments > 1 && `From ${moments} moments with the sun before the window, exact.`}
      </p>
      <button className="btn btn-quiet btn-sm mb-2" onClick={hang}>
        Hang it so
      </button>
      {sets.length > 0 && (
        <table className="figures">
          <thead>
            <tr>
              <th>Beam let in</th>
              <th>With it</th>
              <th>Without</th>
            </tr>
          </thead>
          <tbody>
            {sets.map(({ id, name, letsIn, letsInBare }) => (
              <tr key={id}>
                <td>{name}</td>
                <td>{percent(letsIn)}</td>
                <td>{percent(letsInBare)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

/** What was found for a room, and what was asked for. */
export interface FoundInRoom extends RoomSizeFound, Sizes {
  value: number;
  second: number | null;
  what: string;
  deepest: number;
  of: Goal;
}

export function AnswerInRoom({ found, zone, hang }: { found: FoundInRoom; zone: string; hang: () => void }) {
  const { isMet, moments, worst, bare, what, deepest, of, room } = found;
  if (moments === 0)
    return <p data-testid="size-said">At none of these moments is the sun above the horizon.</p>;
  const size = readSizes(found);
  const read = (one: typeof worst) => {
    if (!one || one.value < 1e-4) return 'no sun';
    const clock = clockAt(one.atMs, zone);
    const amount =
      of === 'depth' ? `${one.value.toFixed(2)} m deep` : `${one.value.toFixed(2)} m² of furniture in sun`;
    return `${amount}, on ${shortDate(clock.date)} at ${formatClock(clock.minutes)}`;
  };
  return (
    <div data-testid="size-said">
      <p className="mb-1">
        {isMet ? (
          <>
            <strong>{size}</strong> does it in {room}: at most {read(worst)}.
          </>
        ) : (
          <>
            <strong>No size does it.</strong> The best that {what} gives, at {size}, is {read(worst)}
            {of === 'depth' && `, of the ${deepest} m asked`}: {hint(found)}.
          </>
        )}
      </p>
      <p className="visually-quiet mb-1">
        Without it {read(bare)}. From {moments} {moments === 1 ? 'moment' : 'moments'}, exact.
      </p>
      <button className="btn btn-quiet btn-sm mb-2" onClick={hang}>
        Hang it so
      </button>
    </div>
  );
}

/** Why no size of it does it, in half a sentence. */
function hint({ number }: { number: string }): string {
  return number === 'depthM' || number === 'slatM' || number === 'outM'
    ? 'a low sun comes in under it or past its ends: fins, slats or a wider one would help'
    : 'another of its sizes, or another kind, would help';
}
