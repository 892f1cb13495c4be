import {
  contentHash,
  cutText,
  InputError,
  newUnderlay,
  scaledUnderlay,
  underlayCorners,
  underlayFacts,
  underlayPoint,
} from '@dial-shade/core';
import { Command } from 'commander';
import { basename } from 'node:path';
import { checkedText, readBytes, readProject, writeOut } from './project-file';

interface Options {
  out: string;
  name?: string;
  at: string;
  turn: string;
  opacity: string;
  from?: string;
  to?: string;
  length?: string;
}

/** `underlay`: a picture laid on the ground of a project. */
export function underlayCommand(): Command {
  return new Command('underlay')
    .description('lay a picture on the ground of a project, to be traced over')
    .argument('<project>', 'project file')
    .argument('<picture>', 'PNG or JPEG')
    .requiredOption('--out <file>', 'project file to write')
    .option('--name <name>', 'what it is called; its file else')
    .option('--at <x,y>', 'where its middle lies, metres', '0,0')
    .option('--turn <degrees>', 'how far it is turned, anticlockwise', '0')
    .option('--from <x,y>', 'a point of it, pixels from its upper left corner, with --to and --length')
    .option('--to <x,y>', 'another')
    .option('--length <metres>', 'how far they are apart')
    .option('--opacity <share>', 'how strong it is drawn, 0.05 to 1', '0.7')
    .action(layUnder);
}

async function layUnder(path: string, file: string, options: Options): Promise<void> {
  const read = await readProject(path);
  const bytes = await readBytes(file);
  const { widthPx, heightPx } = underlayFacts(bytes);
  const picture = contentHash(bytes);
  const name = options.name ?? (cutText(basename(file).replace(/\.[a-z]+$/i, ''), 80) || 'Picture');
  const at = pointOf('at', options.at);
  const laid = {
    ...newUnderlay(read.project, { name, picture, widthPx, heightPx }, at),
    turnDeg: numberOf('turn', options.turn),
    opacity: numberOf('opacity', options.opacity),
  };
  const underlay = { ...scaled(laid, options), at };
  const project = { ...read.project, underlays: [...read.project.underlays, underlay] };
  const pictures = new Map([...read.pictures, [picture, bytes]]);
  // What is written can be read again.
  await writeOut(options.out, checkedText({ ...read, project, pictures }));
  const { id, metresPerPixel, scaled: isScaled } = underlay;
  console.log(JSON.stringify({ id, metresPerPixel, scaled: isScaled, corners: underlayCorners(underlay) }));
}

/** The picture by the length between two of its points, if they are given. Throws InputError `scale`. */
function scaled(underlay: ReturnType<typeof newUnderlay>, { from, to, length }: Options) {
  if (from === undefined && to === undefined && length === undefined) return underlay;
  if (from === undefined || to === undefined || length === undefined)
    throw new InputError('scale', 'Two points and a length tell the scale: give --from, --to and --length.');
  const on = (option: string, text: string) => underlayPoint(underlay, pointOf(option, text));
  return scaledUnderlay(underlay, on('from', from), on('to', to), numberOf('length', length));
}

/** What an option says as x,y. Throws InputError with its name. */
function pointOf(option: string, text: string): [number, number] {
  const [x, y, ...more] = text.split(',').map(numberIn);
  if (x === undefined || y === undefined || Number.isNaN(x) || Number.isNaN(y) || more.length > 0)
    throw new InputError(option, `“${text}” is no point; write --${option} as x,y.`);
  return [x, y];
}

function numberOf(option: string, text: string): number {
  const value = numberIn(text);
  if (Number.isNaN(value)) throw new InputError(option, `“${text}” is no number; write --${option} as one.`);
  return value;
}

/** A finite number, or NaN. */
const numberIn = (text: string) => (text.trim() !== '' && Number.isFinite(Number(text)) ? Number(text) : NaN);
