import { parentPort, workerData } from 'node:worker_threads';

/** Asks for health all the time, in a thread of its own so that nothing else of the drill holds it up. */
let longest = 0;
let isOver = false;
let watching = Promise.resolve();

async function watch() {
  while (!isOver) {
    const began = performance.now();
    await fetch(workerData.url).then(
      (answer) => answer.text(),
      () => {},
    );
    longest = Math.max(longest, performance.now() - began);
    await new Promise((resolve) => setTimeout(resolve, 30));
  }
}

async function tell() {
  isOver = true;
  await watching;
  parentPort.postMessage(longest);
}

parentPort.on('message', (word) => {
  if (word === 'begin') {
    longest = 0;
    isOver = false;
    watching = watch();
  } else void tell();
});
