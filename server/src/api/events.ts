import type { Response } from 'express';
import pg from 'pg';
import { log } from '../log';
import { CHANNEL } from '../store/runs';
import { HttpError } from './answers';

/** Pages that may be told at once. */
const MAX_PAGES = 500;

/** On hello a page asks for whatever it shows. */
const HELLO = 'event: hello\ndata: {}\n\n';

/** Passes what the database tells about a project on to the pages that show it, as server-sent events. */
export class Events {
  private readonly pages = new Map<string, Set<Response>>();
  private client: pg.Client | null = null;
  private closed = false;
  private readonly pulse: NodeJS.Timeout;

  constructor(private readonly url: string) {
    this.pulse = setInterval(() => {
      for (const set of this.pages.values()) for (const page of set) page.write(': still here\n\n');
    }, 15_000);
    void this.listen();
  }

  /** Keeps a page told about a project until it goes away. Throws HttpError 503 when too many are told already. */
  attach(projectId: string, response: Response): void {
    let open = 0;
    for (const set of this.pages.values()) open += set.size;
    if (open >= MAX_PAGES)
      throw new HttpError(
        503,
        'too-many-pages',
        `Over ${MAX_PAGES} pages are open on this server; close some, then load this one again.`,
      );
    response.writeHead(200, {
      'Content-Type': 'text/event-stream',
      'Cache-Control': 'no-store',
      Connection: 'keep-alive',
      'X-Accel-Buffering': 'no',
    });
    response.write(`retry: 1000\n\n${HELLO}`);
    const pages = this.pages.get(projectId) ?? new Set();
    this.pages.set(projectId, pages.add(response));
    response.on('close', () => {
      pages.delete(response);
      if (pages.size === 0 && this.pages.get(projectId) === pages) this.pages.delete(projectId);
    });
  }

  async close(): Promise<void> {
    this.closed = true;
    clearInterval(this.pulse);
    for (const set of this.pages.values()) for (const page of set) page.end();
    await this.client?.end().catch(() => {});
  }

  /** Listens to the database, and again whenever the connection was lost. */
  private async listen(): Promise<void> {
    if (this.closed) return;
    const client = new pg.Client({ connectionString: this.url, connectionTimeoutMillis: 4000 });
    let over = false;
    const again = () => {
      if (over || this.closed) return;
      over = true;
      client.end().catch(() => {});
      setTimeout(() => void this.listen(), 1000);
    };
    client.on('error', again);
    client.on('end', again);
    client.on('notification', ({ payload }) => this.pass(payload ?? ''));
    try {
      await client.connect();
      await client.query(`LISTEN ${CHANNEL}`);
      this.client = client;
      // It was closed while this was connecting.
      if (this.closed) await client.end();
      // What happened while nobody listened was told to nobody.
      for (const set of this.pages.values()) for (const page of set) page.write(HELLO);
    } catch (error) {
      if (this.closed) client.end().catch(() => {});
      log.warn({ error: (error as Error).message }, 'cannot listen to the database yet');
      again();
    }
  }

  private pass(payload: string): void {
    const { projectId, kind } = JSON.parse(payload) as { projectId: string; kind: string };
    for (const page of this.pages.get(projectId) ?? []) page.write(`event: ${kind}\ndata: ${payload}\n\n`);
  }
}
