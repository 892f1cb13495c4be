import { contentHash, InputError } from '@dial-shade/core';
import type { Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import type { PoolClient } from 'pg';
import { extract, type Header } from 'tar-stream';
import type { BackupHead, BackupProject } from './backup';
import { putBlob } from './blobs';
import { type Database, databaseTrouble, inTransaction } from './database';
import type { CheckedDocument } from './documents';
import { insertProject } from './projects';

/** What is done about projects of a backup that are there already. */
export type WhereThere = 'refuse' | 'keep' | 'replace';

/** What came of a backup that was put back. */
export interface Restored {
  restored: number;
  replaced: number;
  kept: number;
}

/** A project of a backup, its document checked and brought to this program's version. */
export type ReadProject = Omit<BackupProject, 'project'> & { document: CheckedDocument };

/** Bytes that a file of a backup may have. */
const MAX_ENTRY_BYTES = 256 * 1_048_576;

const BLOB = /^blobs\/(mesh|picture|thumb|result)\/([0-9a-f]{64})$/;

/**
 * Puts a backup back, all of it or nothing: a TAR as `backupOf` makes it, packed with gzip. Throws InputError `backup` where it
 * is none, or `there` where projects of it are there already and it was not said what to do.
 * @param read checks a project of the backup, given as JSON
 */
export async function restoreBackup(
  db: Database,
  packed: Readable,
  whereThere: WhereThere,
  read: (json: Buffer) => Promise<ReadProject>,
): Promise<Restored> {
  const entries = extract();
  const unpacked = createGunzip();
  const broken = (error: Error) => entries.destroy(error);
  packed.on('error', broken);
  packed.on('close', () => packed.readableEnded || broken(new Error('the backup ended before it was whole')));
  unpacked.on('error', broken);
  try {
    return await inTransaction(db, async (client) => {
      const restoring = new Restoring(client, whereThere, read);
      await new Promise<void>((resolve, reject) => {
        entries.on('entry', (header, stream, next) => {
          // Whatever fails ends it at once: nothing more is read of what still comes.
          restoring.take(header, stream).then(() => next(), reject);
        });
        entries.on('finish', resolve);
        entries.on('error', reject);
        packed.pipe(unpacked).pipe(entries as unknown as NodeJS.WritableStream);
      });
      return restoring.end();
    });
  } catch (error) {
    packed.unpipe(unpacked);
    packed.resume();
    // What the database says, or that it is away, is not the fault of the backup.
    const isOfDatabase = databaseTrouble(error) !== null || 'severity' in (error as Error);
    if (error instanceof InputError || isOfDatabase) throw error;
    throw new InputError('backup', `The backup cannot be read: ${(error as Error).message}.`);
  }
}

/** A backup on its way in, file by file. */
class Restoring {
  private head: BackupHead | null = null;
  private there = new Set<string>();
  private readonly found: Restored = { restored: 0, replaced: 0, kept: 0 };

  constructor(
    private readonly client: PoolClient,
    private readonly whereThere: WhereThere,
    private readonly read: (json: Buffer) => Promise<ReadProject>,
  ) {}

  async take({ name, size = 0 }: Header, stream: AsyncIterable<unknown>): Promise<void> {
    if (size > MAX_ENTRY_BYTES) throw new Error(`“${name}” in it is too large`);
    const pieces: Buffer[] = [];
    for await (const piece of stream as AsyncIterable<Buffer>) pieces.push(piece);
    const bytes = Buffer.concat(pieces);
    const blob = BLOB.exec(name);
    if (!this.head) {
      this.head = headOf(name, bytes);
      this.there = await thereAlready(this.client, this.head, this.whereThere);
    } else if (blob) {
      const [, kind, hash] = blob as unknown as [string, string, string];
      if (contentHash(bytes) !== hash) throw new Error(`the bytes of ${hash} are not what they were`);
      await putBlob(this.client, hash, kind, bytes);
    } else await this.takeProject(await this.read(bytes));
  }

  private async takeProject(project: ReadProject): Promise<void> {
    const isThere = this.there.has(project.id);
    if (isThere && this.whereThere === 'keep') {
      this.found.kept++;
      return;
    }
    if (isThere) await this.client.query('DELETE FROM projects WHERE id = $1', [project.id]);
    await putProject(this.client, project);
    this.found[isThere ? 'replaced' : 'restored']++;
  }

  /** Once all has come in: what came of it. */
  async end(): Promise<Restored> {
    const { head, found } = this;
    if (!head) throw new Error('it is empty');
    if (found.restored + found.replaced + found.kept !== head.projects.length)
      throw new Error('it ended before it was whole');
    for (const id of head.samples)
      await this.client.query('INSERT INTO samples_loaded VALUES ($1) ON CONFLICT DO NOTHING', [id]);
    return found;
  }
}

function headOf(name: string, bytes: Buffer): BackupHead {
  if (name !== 'backup.json') throw new Error('it does not begin with “backup.json”');
  const head = JSON.parse(bytes.toString('utf8')) as BackupHead;
  if (head.format !== 'dial-shade-backup' || !Array.isArray(head.projects) || !Array.isArray(head.samples))
    throw new Error('it is no backup of Dial Shade');
  if (head.version !== 1)
    throw new InputError(
      'backup',
      `The backup is of version ${String(head.version)}, which a newer program made; restore it with that one.`,
    );
  return head;
}

async function thereAlready(
  client: PoolClient,
  { projects }: BackupHead,
  whereThere: WhereThere,
): Promise<Set<string>> {
  const { rows } = await client.query<{ id: string; name: string }>(
    'SELECT id, name FROM projects WHERE id = ANY($1) ORDER BY id',
    [projects.map(({ id }) => id)],
  );
  if (rows.length > 0 && whereThere === 'refuse') {
    const names = rows.slice(0, 5).map(({ name }) => `“${name}”`);
    const more = rows.length > names.length ? ` and ${rows.length - names.length} more` : '';
    throw new InputError(
      'there',
      `${names.join(', ')}${more} ${rows.length === 1 ? 'is' : 'are'} there already: say whether to keep what is there (--keep) or to replace it (--replace). Nothing was changed.`,
    );
  }
  return new Set(rows.map(({ id }) => id));
}

async function putProject(client: PoolClient, stored: ReadProject): Promise<void> {
  const { id, revision, createdAt, updatedAt, document, sweeps, pictures, runs } = stored;
  await insertProject(client, document, id);
  await client.query('UPDATE projects SET revision = $2, created_at = $3, updated_at = $4 WHERE id = $1', [
    id,
    revision,
    createdAt,
    updatedAt,
  ]);
  const put = (table: string, rows: Record<string, unknown>[]) =>
    client.query(
      `INSERT INTO ${table} SELECT r.* FROM jsonb_populate_recordset(NULL::${table}, $1::jsonb) r`,
      [JSON.stringify(rows.map((row) => ({ ...DEFAULTS[table], ...row, project_id: id })))],
    );
  await put('sweeps', sweeps);
  await put('pictures', pictures);
  await put('runs', runs);
}

/** Columns that a backup says nothing of and that may not be null. */
const DEFAULTS: Record<string, object> = { runs: { stop_requested: false, attempts: 0, meshes: [] } };
