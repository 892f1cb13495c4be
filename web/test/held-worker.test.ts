import { type Changes, emptyProject, type Project, withChanges } from '@dial-shade/core';
import { expose } from 'comlink';
import { heldWorker, type Holder } from '../src/workers/held-worker';

interface Work extends Holder {
  name: () => string;
  /** Answers when it is let. */
  wait: () => Promise<string>;
  fail: () => never;
}

/** Workers on ports of this process, and what became of them. */
function workers() {
  const made: { sent: Changes[]; isEnded: boolean; let: () => void }[] = [];
  const make = () => {
    const { port1, port2 } = new MessageChannel();
    let project: Project | null = null;
    let answer = () => {};
    const one = { sent: [] as Changes[], isEnded: false, let: () => answer() };
    const work: Work = {
      hold(changes) {
        one.sent.push(changes);
        project = withChanges(project, changes);
      },
      holdMeshes: () => {},
      name: () => project!.name,
      wait: () => new Promise((resolve) => (answer = () => resolve('waited'))),
      fail: () => {
        throw new Error('It failed.');
      },
    };
    expose(work, port2);
    made.push(one);
    const terminate = () => {
      one.isEnded = true;
      port1.close();
      port2.close();
    };
    return Object.assign(port1, { terminate }) as unknown as Worker;
  };
  const held = heldWorker<Work>(make);
  return { made, held };
}

const NO_MESHES = new Map();

test('a worker at rest is kept for the next project, of which it is sent what differs', async () => {
  const { made, held } = workers();
  const first = emptyProject('First', 2026);
  expect(await held.with(first, NO_MESHES).name()).toBe('First');
  await expect(held.bare().fail()).rejects.toThrow('It failed.');
  held.endIfBusy();
  expect(await held.with({ ...first, name: 'Second' }, NO_MESHES).name()).toBe('Second');
  expect(made).toHaveLength(1);
  expect(made[0]!.sent).toHaveLength(2);
  expect(JSON.stringify(made[0]!.sent[1])).toContain('Second');
  expect(JSON.stringify(made[0]!.sent[1]).length).toBeLessThan(200);
  held.end();
  expect(made[0]!.isEnded).toBe(true);
});

test('one that still has something to answer ends with its project; the next is given all of the document', async () => {
  const { made, held } = workers();
  const asked = held.with(emptyProject('First', 2026), NO_MESHES);
  let isAnswered = false;
  void asked.wait().then(() => (isAnswered = true));
  expect(await asked.name()).toBe('First');
  held.endIfBusy();
  expect(made[0]!.isEnded).toBe(true);
  made[0]!.let();
  expect(await held.with(emptyProject('Second', 2026), NO_MESHES).name()).toBe('Second');
  expect(made).toHaveLength(2);
  expect(made[1]!.sent).toEqual([{ value: emptyProject('Second', 2026) }]);
  expect(isAnswered).toBe(false);
  held.end();
});
