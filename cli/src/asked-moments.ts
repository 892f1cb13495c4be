import { InputError, instantOf, isDate, momentsOf, type Project } from '@dial-shade/core';
import type { Command } from 'commander';
import { momentSet } from './moments-command';

export interface MomentOptions {
  set?: string;
  at?: string[];
}

/** A moment by the clock on site, as epoch ms. Throws InputError `at`. */
function momentAt(text: string, zone: string): number {
  const match = /^(\d{4}-\d{2}-\d{2})T(\d{2}):(\d{2})$/.exec(text);
  const minutes = match ? Number(match[2]) * 60 + Number(match[3]) : NaN;
  if (!match || !isDate(match[1]!) || !(minutes < 1440) || Number(match[3]) > 59)
    throw new InputError('at', `“${text}” is not a moment; write the clock on site as 2026-03-21T09:30.`);
  return instantOf(match[1]!, minutes, zone);
}

/** Lets a command be asked about a moment set or about moments. */
export function withMoments(command: Command): Command {
  return command
    .option('--set <name>', 'name or id of a moment set')
    .option(
      '--at <moment>',
      'clock on site, 2026-03-21T09:30; may be given several times',
      (text, all: string[] = []) => [...all, text],
    );
}

/** The moments that are asked about, epoch ms. Throws InputError `at` or `set`. */
export function askedMoments({ site, momentSets }: Project, { set, at }: MomentOptions): number[] {
  if (!set === !at)
    throw new InputError('at', 'Name either a moment set (--set NAME) or moments (--at 2026-03-21T09:30).');
  return set
    ? momentsOf(momentSet(momentSets, set), site).map(({ atMs }) => atMs)
    : at!.map((text) => momentAt(text, site.place.zone));
}
