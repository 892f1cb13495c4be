import type { Project } from '@dial-shade/core';

/** Letters of all documents together that are kept. */
const MAX_LETTERS = 24 * 1_048_576;

/** The documents that a thread has checked last, each under a token, so that changes of one need not unpack it again. */
export class KeptDocuments {
  private readonly kept = new Map<string, { project: Project; letters: number }>();
  private letters = 0;

  get(token: string): Project | null {
    const found = this.kept.get(token);
    if (!found) return null;
    this.kept.delete(token);
    this.kept.set(token, found);
    return found.project;
  }

  /** @param letters of the document as JSON text */
  keep(token: string, project: Project, letters: number): void {
    this.kept.set(token, { project, letters });
    this.letters += letters;
    for (const [old, { letters: freed }] of this.kept) {
      if (this.letters <= MAX_LETTERS) break;
      this.kept.delete(old);
      this.letters -= freed;
    }
  }
}
