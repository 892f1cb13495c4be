import { join } from 'node:path';
import { MessageChannel, type MessagePort, receiveMessageOnPort, Worker } from 'node:worker_threads';

/** What a run of the command line came to. */
export interface Ran {
  status: number;
  stdout: string;
  stderr: string;
}

let running: { worker: Worker; flag: Int32Array; port: MessagePort } | null = null;

function started() {
  const { port1: port, port2 } = new MessageChannel();
  const flag = new Int32Array(new SharedArrayBuffer(4));
  const worker = new Worker(join(process.cwd(), 'cli/testing/dial-worker.mjs'), {
    workerData: { flag, port: port2 },
    transferList: [port2],
  });
  return { worker, flag, port };
}

afterAll(async () => {
  running?.port.close();
  await running?.worker.terminate();
  running = null;
});

/** Runs the bundled command line on a thread that stays warm and waits for it; standard error is without spaces at its ends. */
export function dial(...args: string[]): Ran {
  running ??= started();
  const { flag, port } = running;
  Atomics.store(flag, 0, 0);
  port.postMessage(args);
  Atomics.wait(flag, 0, 0);
  const { status, stdout, stderr } = receiveMessageOnPort(port)!.message as Ran;
  return { status, stdout, stderr: stderr.trim() };
}
