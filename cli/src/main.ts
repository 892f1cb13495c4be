import { runDial } from './program';

process.exitCode = await runDial(process.argv.slice(2));
