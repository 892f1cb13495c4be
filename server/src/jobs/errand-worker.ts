import { move, transferableSymbol, valueSymbol } from 'piscina';
import { answered, type Refusal } from './aside';
import { doErrand, type Errand, type Fetched } from './errands';

/** Entry of a thread that does errands; bytes that it gives are handed over, not copied. */
export default async function work(errand: Errand): Promise<Fetched[Errand['kind']] | Refusal> {
  const value = await answered(() => doErrand(errand));
  const buffers = buffersOf(value);
  return buffers.length ? (moved(value, buffers) as typeof value) : value;
}

function buffersOf(value: Fetched[Errand['kind']] | Refusal): ArrayBuffer[] {
  const views =
    value instanceof Uint8Array
      ? [value]
      : 'blobs' in value
        ? value.blobs.map(({ bytes }) => bytes)
        : 'bytes' in value
          ? [value.bytes]
          : [];
  return [...new Set(views.map(({ buffer }) => buffer))].filter((buffer) => buffer instanceof ArrayBuffer);
}

function moved(value: object, buffers: ArrayBuffer[]): object {
  return move({
    get [transferableSymbol]() {
      return buffers;
    },
    get [valueSymbol]() {
      return value;
    },
  } as unknown as Parameters<typeof move>[0]);
}
