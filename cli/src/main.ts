import { InputError } from '@dial-shade/core';
import { Command, CommanderError } from 'commander';
import { checkCommand } from './check-command';
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
import { makeWeatherCommand, weatherCommand } from './weather-command';

const program = new Command('dial')
  .description('Dial Shade without a browser: sun data, project checks and studies.')
  .exitOverride()
  .configureOutput({ writeErr: () => {} });

const COMMANDS = [
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
  exportCommand(),
];

for (const command of COMMANDS) {
  command.exitOverride().configureOutput({ writeErr: () => {} });
  program.addCommand(command);
}

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof CommanderError && error.exitCode === 0) process.exitCode = 0;
  else if (error instanceof CommanderError)
    fail(error.code === 'commander.help' ? program.helpInformation() : error.message);
  else if (error instanceof InputError) fail(error.problems.join('\n'));
  else throw error;
}

function fail(message: string): void {
  console.error(message.replace(/^error: /, ''));
  process.exitCode = 1;
}
