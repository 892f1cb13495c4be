/** What core uses of its surroundings beyond the language: both browsers and Node have it. */
declare const TextDecoder: new (
  label?: string,
  options?: { fatal?: boolean },
) => { decode(bytes?: Uint8Array, options?: { stream?: boolean }): string };
declare const TextEncoder: new () => {
  encode(text: string): Uint8Array<ArrayBuffer>;
  encodeInto(text: string, into: Uint8Array): unknown;
};
