import pg from 'pg';

/** How often the database is asked for a sign of life, and how long its answer may take. */
const ASK_MS = 1000;
const ANSWER_MS = 3000;

/**
 * Knows whether the database is up, by a connection of its own: whoever asks is answered from memory, and a pool that is busy
 * is not taken for a database that is away.
 */
export class DatabaseWatch {
  private client: pg.Client | null = null;
  private timer: NodeJS.Timeout | null = null;
  private closed = false;
  /** Whether the last sign of life came. */
  isUp = false;

  constructor(private readonly url: string) {}

  /** Asks once, and from then on time and again. */
  async start(): Promise<void> {
    await this.ask();
    if (!this.closed) this.timer = setTimeout(() => void this.start(), ASK_MS);
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
    await this.letGo();
  }

  private async ask(): Promise<void> {
    try {
      this.client ??= await this.connected();
      await this.client.query('SELECT 1');
      this.isUp = true;
    } catch {
      this.isUp = false;
      await this.letGo();
    }
  }

  private async connected(): Promise<pg.Client> {
    const client = new pg.Client({
      connectionString: this.url,
      connectionTimeoutMillis: ANSWER_MS,
      query_timeout: ANSWER_MS,
    });
    const lost = () => {
      if (this.client !== client) return;
      this.client = null;
      this.isUp = false;
    };
    client.on('error', lost);
    client.on('end', lost);
    await client.connect();
    return client;
  }

  private async letGo(): Promise<void> {
    const { client } = this;
    this.client = null;
    // One that does not answer is not waited for.
    await Promise.race([client?.end().catch(() => {}), new Promise((resolve) => setTimeout(resolve, 200))]);
  }
}
