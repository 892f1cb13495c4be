import { randomUUID } from 'node:crypto';
import type { Database } from '../store/database';
import type { CheckedDocument } from '../store/documents';
import { findProjectText, newestRevision, refuseTooManyBlobs, saveProject } from '../store/projects';
import { notify } from '../store/runs';
import type { ErrandRunner } from './errand-runner';

/** Projects, and revisions of each, of which it is known where their documents are kept. */
const MAX_PROJECTS = 500;
const MAX_REVISIONS = 16;

/** A newer document than the one that a page has: what changed since, as JSON, or the whole. */
export type Newer = { revision: number; changes: string } | { revision: number; text: string };

/** What came of saving: the revision that it made, the newer one that stands in its way, or nothing where the project is gone. */
export type SaveOutcome = { saved: number } | { newer: Newer } | null;

/**
 * Saves documents over their revisions: whole, or what changed of them, which costs by what changed. The thread that checks
 * the documents of a project keeps the last ones under tokens; here it is known which revision each became.
 */
export class DocumentSaver {
  private readonly known = new Map<string, Map<number, string>>();

  constructor(
    private readonly db: Database,
    private readonly errands: ErrandRunner,
  ) {}

  /** Saves a whole document, sent as `{revision, project}`. Throws InputError. */
  async whole(id: string, body: Uint8Array, signal: AbortSignal): Promise<SaveOutcome> {
    const keepAs = randomUUID();
    const { revision, document } = await this.errands.save(id, { kind: 'read-save', body, keepAs }, signal);
    if (await this.isStored(id, revision, document, keepAs)) return { saved: revision + 1 };
    const stored = await findProjectText(this.db, id);
    return stored && { newer: stored };
  }

  /** Saves what changed, sent as `{revision, changes}`. Throws InputError. */
  async changes(id: string, body: Uint8Array, signal: AbortSignal): Promise<SaveOutcome> {
    const keepAs = randomUUID();
    const errand = { kind: 'read-changes', body, keepAs } as const;
    let found = await this.errands.save(id, { ...errand, base: this.newestKnown(id) }, signal);
    if (!found.document) {
      const newer = await this.since(id, found.revision, signal);
      if (!newer) return null;
      if (newer.revision !== found.revision) return { newer };
      const stored = await findProjectText(this.db, id);
      if (!stored) return null;
      if (stored.revision !== found.revision) return { newer: stored };
      found = await this.errands.save(id, { ...errand, base: stored }, signal);
    }
    if (await this.isStored(id, found.revision, found.document!, keepAs))
      return { saved: found.revision + 1 };
    const newer = await this.since(id, found.revision, signal);
    return newer && { newer };
  }

  /**
   * What became of a project since a revision: what changed, where both documents are at hand, else the whole; null where the
   * project is gone.
   */
  async since(id: string, revision: number, signal: AbortSignal): Promise<Newer | null> {
    const newest = await newestRevision(this.db, id);
    if (newest === null) return null;
    if (newest === revision) return { revision, changes: 'null' };
    const revisions = this.known.get(id);
    const [from, to] = [revisions?.get(revision), revisions?.get(newest)];
    if (from && to) {
      const { text } = await this.errands.save(id, { kind: 'between', from, to }, signal);
      if (text !== null) return { revision: newest, changes: text };
    }
    return findProjectText(this.db, id);
  }

  private newestKnown(id: string): { revision: number; token: string } | null {
    const last = [...(this.known.get(id) ?? [])].at(-1);
    return last ? { revision: last[0], token: last[1] } : null;
  }

  private async isStored(
    id: string,
    revision: number,
    document: CheckedDocument,
    token: string,
  ): Promise<boolean> {
    await refuseTooManyBlobs(this.db, document.blobs);
    const saved = await saveProject(this.db, id, revision, document);
    if (saved === null) return false;
    const revisions = this.known.get(id) ?? new Map<number, string>();
    this.known.delete(id);
    this.known.set(id, revisions.set(saved, token));
    for (const old of revisions.keys()) if (revisions.size > MAX_REVISIONS) revisions.delete(old);
    for (const old of this.known.keys()) if (this.known.size > MAX_PROJECTS) this.known.delete(old);
    await notify(this.db, { projectId: id, kind: 'revision', revision: saved });
    return true;
  }
}
