import type { Request, RequestHandler } from 'express';
import { HttpError } from './answers';

/** Names under which a server on loopback is always asked for. */
const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** Host names, with or without a port, that DIAL_SHADE_HOSTS lists besides loopback. */
function listedHosts(): Set<string> {
  const listed = (process.env.DIAL_SHADE_HOSTS ?? '').split(',');
  return new Set(listed.map((name) => name.trim().toLowerCase()).filter((name) => name !== ''));
}

/** What decides whose requests are answered. */
export interface Trust {
  /** Refuses a Host that is not the server's own (421): so a name that somebody has pointed at loopback is told. */
  ownHost: RequestHandler;
  /** Refuses a foreign Origin, and requests that a page of another site or port makes (403). It stands before every route of the API. */
  ownPage: RequestHandler;
}

/** Who is trusted: loopback under the port that is listened on, and the names that DIAL_SHADE_HOSTS lists. */
export function trust(): Trust {
  const listed = listedHosts();
  const isOwn = (host: string, port: number | undefined) => {
    const [, name, given] = /^(\[[^\]]*\]|[^:]*)(?::(\d+))?$/.exec(host.toLowerCase()) ?? [];
    if (name === undefined) return false;
    if (listed.has(host.toLowerCase()) || listed.has(name)) return true;
    return LOOPBACK.has(name) && Number(given ?? 80) === port;
  };
  return {
    ownHost(request, _response, next) {
      if (!isOwn(request.headers.host ?? '', request.socket.localPort))
        throw new HttpError(
          421,
          'host',
          'This server does not answer under that name; use the address that it printed, or list the name in DIAL_SHADE_HOSTS.',
        );
      next();
    },
    ownPage(request, _response, next) {
      if (isForeign(request, (host) => isOwn(host, request.socket.localPort)))
        throw new HttpError(403, 'origin', 'Requests from pages of other sites are not answered.');
      next();
    },
  };
}

function isForeign({ headers }: Request, isOwn: (host: string) => boolean): boolean {
  // Pages of another port are of the same site.
  if (headers['sec-fetch-site'] === 'cross-site' || headers['sec-fetch-site'] === 'same-site') return true;
  const { origin } = headers;
  if (origin === undefined) return false;
  const host = /^https?:\/\/([^/]+)$/.exec(origin)?.[1];
  return host === undefined || !isOwn(host);
}
