import { type Changes, documentChanges, type MeshStore, type Project } from '@dial-shade/core';
import { type Remote, wrap } from 'comlink';

/** A worker that holds the document. */
export interface Holder {
  hold(changes: Changes): void;
  holdMeshes(all: MeshStore): void;
}

/** A worker and the way to end it. */
export interface OpenWorker<W> {
  remote: Remote<W>;
  /** Whether it has been asked something that it has not answered. */
  isBusy: () => boolean;
  end: () => void;
}

export function openWorker<W>(make: () => Worker): OpenWorker<W> {
  const worker = make();
  let open = 0;
  const remote = wrap<W>(worker) as Remote<W> & object;
  const counted = new Proxy(remote, {
    get(target, name) {
      const method: unknown = Reflect.get(target, name);
      if (typeof name === 'symbol' || typeof method !== 'function') return method;
      return (...asked: unknown[]) => {
        const answer = Reflect.apply(method, target, asked) as Promise<unknown>;
        open++;
        const answered = () => void open--;
        void answer.then(answered, answered);
        return answer;
      };
    },
  });
  return { remote: counted, isBusy: () => open > 0, end: () => worker.terminate() };
}

/** A worker that is made when it is first asked for, and gives itself with a document at hand: only what changed is sent. */
export function heldWorker<W extends Holder>(make: () => Worker) {
  let shared: OpenWorker<W> | null = null;
  let sent: { project: Project | null; meshes: MeshStore | null } = { project: null, meshes: null };
  const bare = () => (shared ??= openWorker<W>(make)).remote;
  const end = () => {
    shared?.end();
    shared = null;
    sent = { project: null, meshes: null };
  };
  return {
    bare,
    with(project: Project, meshes: MeshStore): Remote<W> {
      const worker = bare() as Remote<Holder>;
      if (sent.meshes !== meshes) void worker.holdMeshes(meshes);
      const changes = documentChanges(sent.project, project);
      if (changes) void worker.hold(changes);
      sent = { project, meshes };
      return bare();
    },
    /** Ends it; the next that asks gets a new one. */
    end,
    /** Ends it where it has not answered all that it was asked: nobody waits for that any more. At rest it stays. */
    endIfBusy(): void {
      if (shared?.isBusy()) end();
    },
  };
}
