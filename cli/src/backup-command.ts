import { InputError, type ProjectLine } from '@dial-shade/core';
import { Command } from 'commander';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { askServer, serverOption } from './server-client';

/** Projects that are asked for at once. */
const A_PAGE = 500;

/** Writes what the server sends to a file, which is there only when it is whole. Throws InputError `out`. */
async function download(response: Response, path: string): Promise<number> {
  const part = `${path}.part`;
  try {
    await pipeline(Readable.fromWeb(response.body as never), createWriteStream(part));
    await rename(part, path);
    return (await stat(path)).size;
  } catch (error) {
    await rm(part, { force: true });
    throw new InputError('out', `The file ${path} could not be written whole: ${(error as Error).message}.`);
  }
}

/** `backup`: everything that the running server keeps, as one file. */
export function backupCommand(): Command {
  return new Command('backup')
    .description('everything that the running server keeps, as one file')
    .argument('<file>', 'file to write, .tar.gz')
    .addOption(serverOption())
    .action(async (file: string, { server }: { server: string }) => {
      const bytes = await download(await askServer(server, '/backup'), file);
      console.log(`${bytes.toLocaleString('en')} bytes written to ${file}.`);
    });
}

/** `restore`: puts a backup into the running server, all of it or nothing. */
export function restoreCommand(): Command {
  return new Command('restore')
    .description('put a backup into the running server, all of it or nothing')
    .argument('<file>', 'file that backup has written')
    .option('--keep', 'projects that are there already stay as they are')
    .option('--replace', 'projects that are there already are replaced')
    .addOption(serverOption())
    .action(async (file: string, options: { keep?: true; replace?: true; server: string }) => {
      const { keep, replace, server } = options;
      if (keep && replace) throw new InputError('existing', 'Choose one of --keep and --replace.');
      if (!(await stat(file).catch(() => null))?.isFile())
        throw new InputError('file', `There is no file ${file}.`);
      const existing = keep ? 'keep' : replace ? 'replace' : 'refuse';
      const response = await askServer(server, `/restore?existing=${existing}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/gzip' },
        body: Readable.toWeb(createReadStream(file)) as never,
        duplex: 'half',
      } as RequestInit);
      const { restored, replaced, kept } = (await response.json()) as Record<string, number>;
      console.log(`${restored} projects restored, ${replaced} replaced, ${kept} kept as they were.`);
    });
}

/** `export`: project files of the running server, of all projects or of some. */
export function exportProjectsCommand(): Command {
  return new Command('export')
    .description('projects of the running server as project files')
    .argument('[id...]', 'ids of projects')
    .option('--all', 'all of them')
    .requiredOption('--out <folder>', 'folder to write to')
    .addOption(serverOption())
    .action(async (ids: string[], options: { all?: true; out: string; server: string }) => {
      const { all, out, server } = options;
      if (!all === (ids.length === 0))
        throw new InputError('projects', 'Name projects by their ids, or say --all.');
      const wanted = all ? await allIds(server) : ids;
      await mkdir(out, { recursive: true });
      for (const id of wanted) {
        const path = join(out, `${id}.json`);
        await download(await askServer(server, `/projects/${encodeURIComponent(id)}/file`), path);
      }
      console.log(`${wanted.length} projects written to ${out}.`);
    });
}

async function allIds(server: string): Promise<string[]> {
  const ids: string[] = [];
  for (;;) {
    const response = await askServer(server, `/projects?order=name&limit=${A_PAGE}&offset=${ids.length}`);
    const lines = (await response.json()) as ProjectLine[];
    ids.push(...lines.map(({ id }) => id));
    if (lines.length < A_PAGE) return ids;
  }
}
