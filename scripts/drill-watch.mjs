import { parentPort, workerData } from 'node:worker_threads';

/** Asks for health all the time, in a thread of its own so that nothing else of the drill holds it up. */
let times = [];
let isOver = false;
let watching = Promise.resolve();

async function watch() {
  while (!isOver) {
    const began = performance.now();
    await fetch(workerData.url).then(
      (answer) => answer.text(),
      () => {},
    );
    times.push(performance.now() - began);
    await new Promise((resolve) => setTimeout(resolve, 30));
  }
}

async function tell() {
  isOver = true;
  await watching;
  times.sort((a, b) => a - b);
  parentPort.postMessage({ longest: times.at(-1) ?? 0, p95: times[Math.floor(times.length * 0.95)] ?? 0 });
}

parentPort.on('message', (word) => {
  if (word === 'begin') {
    times = [];
    isOver = false;
    watching = watch();
  } else void tell();
});
