import { InputError } from '@dial-shade/core';
import { Option } from 'commander';

/** Where a server runs that was started as it comes. */
const USUAL = 'http://127.0.0.1:4173';

/** The running server that a command speaks to. */
export const serverOption = () =>
  new Option('--server <url>', 'the running server').env('DIAL_SHADE_URL').default(USUAL);

/** An answer of the running server. Throws InputError with its words where it refuses, `server` where there is none. */
export async function askServer(server: string, path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(new URL(`/api${path}`, server), init);
  } catch (error) {
    const { cause, message } = error as Error & { cause?: Error };
    throw new InputError(
      'server',
      `No server answers at ${server} (${cause?.message || message}); start it with npm start, or name it with --server.`,
    );
  }
  if (response.ok) return response;
  const said = (await response.json().catch(() => ({}))) as { code?: string; message?: string };
  throw new InputError(said.code ?? 'server', said.message ?? `The server answered ${response.status}.`);
}
