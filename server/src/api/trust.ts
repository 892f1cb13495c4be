import type { Request, RequestHandler } from 'express';
import { HttpError } from './answers';

/** Names under which a server on loopback is always asked for. */
const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);

/** Host names, with or without a port, that DIAL_SHADE_HOSTS lists besides loopback. */
function listedHosts(): Set<string> {
  const listed = (process.env.DIAL_SHADE_HOSTS ?? '').split(',');
  return new Set(listed.map((name) => name.trim().toLowerCase()).filter((name) => name !== ''));
}

/**
 * Refuses what is not meant for this server or comes from a page of somebody else: a Host that is not its own (421), which
 * is how a name that is pointed at loopback is told, and, under /api, a foreign Origin or a request across sites (403).
 */
export function trustedOnly(): RequestHandler {
  const listed = listedHosts();
  const isOwn = (host: string, port: number | undefined) => {
    const [, name, given] = /^(\[[^\]]*\]|[^:]*)(?::(\d+))?$/.exec(host.toLowerCase()) ?? [];
    if (name === undefined) return false;
    if (listed.has(host.toLowerCase()) || listed.has(name)) return true;
    return LOOPBACK.has(name) && Number(given ?? 80) === port;
  };
  return (request, _response, next) => {
    const port = request.socket.localPort;
    if (!isOwn(request.headers.host ?? '', port))
      throw new HttpError(
        421,
        'host',
        'This server does not answer under that name; use the address that it printed, or list the name in DIAL_SHADE_HOSTS.',
      );
    if (isApi(request) && isForeign(request, (host) => isOwn(host, port)))
      throw new HttpError(403, 'origin', 'Requests from pages of other sites are not answered.');
    next();
  };
}

const isApi = ({ path }: Request) => path === '/api' || path.startsWith('/api/');

function isForeign({ headers }: Request, isOwn: (host: string) => boolean): boolean {
  if (headers['sec-fetch-site'] === 'cross-site') return true;
  const { origin } = headers;
  if (origin === undefined) return false;
  const host = /^https?:\/\/([^/]+)$/.exec(origin)?.[1];
  return host === undefined || !isOwn(host);
}
