const C1 = 0x239b961b;
const C2 = 0xab0e9789;
const C3 = 0x38b34ae5;
const C4 = 0xa1e38b93;

const rotl = (x: number, n: number) => (x << n) | (x >>> (32 - n));

function finish(h: number): number {
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return h ^ (h >>> 16);
}

/**
 * A quick 128-bit hash of bytes, in hexadecimal: for telling large arrays apart, not for what must withstand forgery.
 * MurmurHash3 x86 128 with seed 0 (Appleby, public domain).
 */
export function quickHash(bytes: Uint8Array): string {
  const { length } = bytes;
  const view = new DataView(bytes.buffer, bytes.byteOffset, length);
  let [h1, h2, h3, h4] = [0, 0, 0, 0];
  const blocks = length >> 4;
  // Whole words where they are aligned and stand as they are read: a good deal faster than a view.
  const words =
    bytes.byteOffset % 4 === 0 && LITTLE ? new Uint32Array(bytes.buffer, bytes.byteOffset, blocks * 4) : null;
  const word = (i: number) => (words ? words[i]! : view.getUint32(i * 4, true));
  for (let i = 0; i < blocks; i++) {
    const at = i * 4;
    h1 ^= Math.imul(rotl(Math.imul(word(at), C1), 15), C2);
    h1 = (Math.imul(rotl(h1, 19) + h2, 5) + 0x561ccd1b) | 0;
    h2 ^= Math.imul(rotl(Math.imul(word(at + 1), C2), 16), C3);
    h2 = (Math.imul(rotl(h2, 17) + h3, 5) + 0x0bcaa747) | 0;
    h3 ^= Math.imul(rotl(Math.imul(word(at + 2), C3), 17), C4);
    h3 = (Math.imul(rotl(h3, 15) + h4, 5) + 0x96cd1c35) | 0;
    h4 ^= Math.imul(rotl(Math.imul(word(at + 3), C4), 18), C1);
    h4 = (Math.imul(rotl(h4, 13) + h1, 5) + 0x32ac3b17) | 0;
  }
  const rest = length & 15;
  const tail = (from: number) => {
    let k = 0;
    for (let i = Math.min(rest, from + 4) - 1; i >= from; i--) k = (k << 8) | bytes[blocks * 16 + i]!;
    return k;
  };
  if (rest > 12) h4 ^= Math.imul(rotl(Math.imul(tail(12), C4), 18), C1);
  if (rest > 8) h3 ^= Math.imul(rotl(Math.imul(tail(8), C3), 17), C4);
  if (rest > 4) h2 ^= Math.imul(rotl(Math.imul(tail(4), C2), 16), C3);
  if (rest > 0) h1 ^= Math.imul(rotl(Math.imul(tail(0), C1), 15), C2);
  [h1, h2, h3, h4] = [h1 ^ length, h2 ^ length, h3 ^ length, h4 ^ length];
  h1 = (h1 + h2 + h3 + h4) | 0;
  [h2, h3, h4] = [(h2 + h1) | 0, (h3 + h1) | 0, (h4 + h1) | 0];
  [h1, h2, h3, h4] = [finish(h1), finish(h2), finish(h3), finish(h4)];
  h1 = (h1 + h2 + h3 + h4) | 0;
  [h2, h3, h4] = [(h2 + h1) | 0, (h3 + h1) | 0, (h4 + h1) | 0];
  return [h1, h2, h3, h4].map((h) => (h >>> 0).toString(16).padStart(8, '0')).join('');
}

const LITTLE = new Uint8Array(Uint32Array.of(1).buffer)[0] === 1;

/** The same of the memory of an array. */
export function quickHashOf(array: ArrayBufferView): string {
  return quickHash(new Uint8Array(array.buffer, array.byteOffset, array.byteLength));
}
