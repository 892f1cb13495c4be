import { get, request as httpRequest } from 'node:http';

const json = { 'Content-Type': 'application/json' };

/** A body that begins and never ends; gives what lets go of it. */
function endless(url, path, first) {
  const { port } = new URL(url);
  const headers = { ...json, 'Transfer-Encoding': 'chunked' };
  const sent = httpRequest({ host: '127.0.0.1', port, path: `/api${path}`, method: 'POST', headers });
  sent.on('error', () => {});
  sent.write(first);
  return () => sent.destroy();
}

/** Bytes that an address gives, as they come in; less its status where it gives none. */
function lengthOf(address) {
  return new Promise((resolve) => {
    get(address, (answer) => {
      let length = 0;
      answer.on('data', (chunk) => (length += chunk.length));
      answer.on('end', () => resolve(answer.statusCode === 200 ? length : -Number(answer.statusCode)));
    });
  });
}

/** Time of a plain save of a project, ms. */
async function saveTime(url, stored) {
  const began = performance.now();
  const answer = await fetch(`${url}/api/projects/${stored.id}`, {
    method: 'PATCH',
    headers: json,
    body: JSON.stringify({
      revision: stored.revision,
      changes: { fields: { note: { value: `${Math.random()}` } }, gone: [] },
    }),
  });
  const { revision } = await answer.json();
  stored.revision = revision;
  return performance.now() - began;
}

/**
 * What many, large or unfriendly requests do to everyone else. Each strain gives what was found, what is wanted, and whether it
 * is so.
 * @param stored a project that nobody else saves, as `{id, revision}`
 * @param stallDuring runs work and gives its value with what health took meanwhile: `longest` and `p95`, ms
 */
export function strains({ url, asSuperuser, stored, stallDuring, isShort }) {
  // How long anything takes depends on how busy the machine is: the short form, a part of the tests, tells times and judges none.
  const isQuick = (isWithin) => isShort || isWithin;
  return [
    {
      name: '6 bodies of 8 MB in nested empty lists, 100 that stand still',
      wanted: 'a save beside them within 1 s',
      async put() {
        const still = Array.from({ length: 100 }, () => endless(url, '/projects', '{"project":['));
        const body = `{"project":[${Array(2_600_000).fill('[]').join(',')}]}`;
        const hostile = Array.from({ length: 6 }, () =>
          fetch(`${url}/api/projects`, { method: 'POST', headers: json, body }).then(
            ({ status }) => status,
            () => 0,
          ),
        );
        const times = [];
        for (let i = 0; i < 8; i++) times.push(await saveTime(url, stored));
        const answers = await Promise.all(hostile);
        still.forEach((letGo) => letGo());
        const longest = Math.max(...times);
        return {
          found: `saved within ${longest.toFixed(0)} ms; answers ${[...new Set(answers)].join(', ')}`,
          isMet: isQuick(longest < 1000) && answers.every((status) => status === 422 || status === 0),
        };
      },
    },
    {
      name: '30 who take one mesh of 40 MB',
      wanted: 'all have it, health within 100 ms 95 of 100 times',
      async put() {
        const hash = 'd'.repeat(64);
        await asSuperuser((client) =>
          client.query(
            `INSERT INTO blobs (hash, kind, bytes)
             SELECT $1, 'mesh', convert_to(repeat(string_agg(md5(i::text), ''), $2), 'LATIN1') FROM generate_series(1, 1250) i`,
            [hash, isShort ? 100 : 1000],
          ),
        );
        const {
          value: lengths,
          longest,
          p95,
        } = await stallDuring(() =>
          Promise.all(Array.from({ length: 30 }, () => lengthOf(`${url}/api/meshes/${hash}`))),
        );
        const bytes = isShort ? 4_000_000 : 40_000_000;
        const whole = lengths.filter((length) => length === bytes).length;
        return {
          found: `${whole} of 30 have it, health 95 of 100 times within ${p95.toFixed(0)} ms, at most ${longest.toFixed(0)}`,
          isMet: whole === 30 && isQuick(p95 < 100),
        };
      },
    },
    {
      name: 'a list of 5,000 projects',
      wanted: 'its first page within 150 ms',
      async put() {
        await asSuperuser((client) =>
          client.query(
            `INSERT INTO projects (id, document, name, place, options)
             SELECT 'listed-' || i, document, name || ' ' || i, place, options FROM projects, generate_series(1, 5000) i
             WHERE id = 'kelp-lane'`,
          ),
        );
        const times = [];
        for (let i = 0; i < 15; i++) {
          const began = performance.now();
          await (await fetch(`${url}/api/projects?limit=100&search=${i % 2 ? 'kelp' : ''}`)).json();
          times.push(performance.now() - began);
        }
        await asSuperuser((client) => client.query("DELETE FROM projects WHERE id LIKE 'listed-%'"));
        const median = times.sort((a, b) => a - b)[7];
        return { found: `${median.toFixed(1)} ms (median of 15)`, isMet: isQuick(median < 150) };
      },
    },
  ];
}
