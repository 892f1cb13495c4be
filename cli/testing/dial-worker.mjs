import { format } from 'node:util';
import { workerData } from 'node:worker_threads';

/** Runs the bundled command line for each message and tells what it said; a process of its own would start anew each time. */
const { runDial } = await import(new URL('../../dist/cli/program.js', import.meta.url).href);
const { flag, port } = workerData;
port.on('message', async (args) => {
  const said = { stdout: '', stderr: '' };
  console.log = (...parts) => (said.stdout += `${format(...parts)}\n`);
  console.error = (...parts) => (said.stderr += `${format(...parts)}\n`);
  let status = 1;
  try {
    status = await runDial(args);
  } catch (error) {
    said.stderr += String(error?.stack ?? error);
  }
  port.postMessage({ status, ...said });
  Atomics.store(flag, 0, 1);
  Atomics.notify(flag, 0);
});
