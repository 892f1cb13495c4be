import { InputError } from '@dial-shade/core';
import { Command, CommanderError } from 'commander';
import { checkCommand } from './check-command';
import { dayCommand } from './day-command';
import { runCommand } from './run-command';
import { sunCommand } from './sun-command';

const program = new Command('dial')
  .description('Dial Shade without a browser: sun data, project checks and studies.')
  .exitOverride()
  .configureOutput({ writeErr: () => {} });

for (const command of [sunCommand(), dayCommand(), checkCommand(), runCommand()]) {
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
