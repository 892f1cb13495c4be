/** Seconds that reading a file may take whatever it holds, more for each megabyte, and for each opening that is cut out of a body. */
const MIN_S = 3;
const PER_MB_S = 4;
const PER_CUT_S = 0.4;

/** What is cut or clipped in a file of building elements. */
const CUTS = ['=IFCRELVOIDSELEMENT(', '=IFCBOOLEANCLIPPINGRESULT(', '=IFCBOOLEANRESULT('];

/** Seconds that reading a file may take by what it holds; after that it is given up. */
export function readingSeconds(bytes: Uint8Array): number {
  const whole = MIN_S + (bytes.length / 1048576) * PER_MB_S;
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 64));
  if (!head.includes('ISO-10303-21')) return whole;
  const text = new TextDecoder('latin1')
    .decode(bytes)
    .toUpperCase()
    .replace(/=\s+IFC/g, '=IFC');
  const cuts = CUTS.reduce((sum, word) => sum + text.split(word).length - 1, 0);
  return whole + cuts * PER_CUT_S;
}

/** What is said when a file took longer than it may: it need not be unsound. */
export function tooSlow(seconds: number): string {
  return `reading it took more than ${Math.round(seconds)} s and did not come to an end: it holds more to cut out than can be worked out in that time, or it is not sound. Leave out details and what is far from the site, or export it again`;
}
