import { InputError } from '@dial-shade/core';
import { Command, CommanderError } from 'commander';
import { checkCommand } from './check-command';
import { backupCommand, exportProjectsCommand, restoreCommand } from './backup-command';
import { importCommand } from './import-command';
import { compareCommand } from './compare-command';
import { dayCommand } from './day-command';
import { figuresCommand } from './figures-command';
import { modelCommand } from './model-command';
import { momentsCommand } from './moments-command';
import { openingsCommand } from './openings-command';
import { raysCommand } from './rays-command';
import { roomCommand } from './room-command';
import { roomsCommand } from './rooms-command';
import { runCommand } from './run-command';
import { shadowsCommand } from './shadows-command';
import { deviceCommand } from './device-command';
import { exportCommand } from './export-command';
import { sizeCommand } from './size-command';
import { skyCommand } from './sky-command';
import { sunCommand } from './sun-command';
import { envelopeCommand } from './envelope-command';
import { sweepCommand } from './sweep-command';
import { takesCommand } from './takes-command';
import { underlayCommand } from './underlay-command';
import { makeWeatherCommand, weatherCommand } from './weather-command';

/** Every command, made anew: options that were given once stay with a command. */
const COMMANDS = () => [
  sunCommand(),
  dayCommand(),
  checkCommand(),
  runCommand(),
  compareCommand(),
  takesCommand(),
  figuresCommand(),
  openingsCommand(),
  modelCommand(),
  momentsCommand(),
  deviceCommand(),
  sizeCommand(),
  sweepCommand(),
  envelopeCommand(),
  roomCommand(),
  roomsCommand(),
  raysCommand(),
  shadowsCommand(),
  weatherCommand(),
  skyCommand(),
  makeWeatherCommand(),
  importCommand(),
  underlayCommand(),
  exportCommand(),
  backupCommand(),
  restoreCommand(),
  exportProjectsCommand(),
];

/**
 * Runs the command line: gives 0, or 1 after a sentence on standard error for what cannot be done.
 * @param args what stands after the name of the program
 */
export async function runDial(args: readonly string[]): Promise<0 | 1> {
  const program = new Command('dial')
    .description('Dial Shade without a browser: sun data, project checks and studies.')
    .exitOverride()
    .configureOutput({ writeErr: () => {} });
  for (const command of COMMANDS()) {
    command.exitOverride().configureOutput({ writeErr: () => {} });
    program.addCommand(command);
  }
  try {
    await program.parseAsync(args, { from: 'user' });
  } catch (error) {
    if (error instanceof CommanderError && error.exitCode === 0) return 0;
    if (error instanceof CommanderError)
      return failed(error.code === 'commander.help' ? program.helpInformation() : error.message);
    if (error instanceof InputError) return failed(error.problems.join('\n'));
    throw error;
  }
  return 0;
}

function failed(message: string): 1 {
  console.error(message.replace(/^error: /, ''));
  return 1;
}
