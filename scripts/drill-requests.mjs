import { gzipSync } from 'node:zlib';

const json = { 'Content-Type': 'application/json' };

async function post(url, path, body, headers = json, method = 'POST') {
  const response = await fetch(`${url}/api${path}`, { method, headers, body });
  return answered(response);
}

async function answered(response) {
  const text = await response.text();
  return { status: response.status, body: text.startsWith('{') ? JSON.parse(text) : null };
}

const round = (x, y, radius, corners) =>
  Array.from({ length: corners }, (_, i) => {
    const angle = (i / corners) * 2 * Math.PI;
    return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)];
  });

/** The document of an empty project, as the server makes it. */
async function empty(url) {
  const { body } = await post(url, '/projects', JSON.stringify({ name: 'Hostile' }));
  return body;
}

const mass = (id, footprint, more = {}) => ({
  id,
  name: id,
  footprint,
  base: { on: 'ground', offsetM: 0 },
  storeys: [{ heightM: 3 }],
  roof: { kind: 'flat', parapetM: 0 },
  openings: [],
  partitions: [],
  rooms: [],
  furniture: [],
  demolished: false,
  ...more,
});

/** Saves a project that was made so and gives what the server answers, and its id. */
async function saved(url, change) {
  const { id, project } = await empty(url);
  change(
    project,
    project.options.find((option) => option.id !== 'today'),
  );
  const answer = await post(url, `/projects/${id}`, JSON.stringify({ revision: 1, project }), json, 'PUT');
  return { ...answer, id, option: project.options.find((option) => option.id !== 'today').id };
}

/** Requests that one user can send and that could stop a service, each with a name and the answer that is wanted. */
export function hostileRequests(url, isShort) {
  const scale = isShort ? 0.2 : 1;
  const hips = isShort ? 4 : 60;
  const many = (n) => Math.ceil(n * scale);
  return [
    {
      name: 'a million openings by rule, sent out as OBJ',
      wanted: '422 too-many-openings',
      async send() {
        const { id, option } = await saved(url, (project, of) => {
          for (let i = 0; i < 60; i++)
            of.masses.push(
              mass(
                `m${i}`,
                {
                  outer: [
                    [i * 200, 0],
                    [i * 200 + 150, 0],
                    [i * 200 + 150, 100],
                    [i * 200, 100],
                  ],
                  holes: [],
                },
                { storeys: Array.from({ length: 20 }, () => ({ heightM: 3 })) },
              ),
            );
          of.rules.push({
            id: 'r',
            name: 'R',
            scope: { owners: null, sectors: null, storeys: null, walls: null, except: [] },
            make: { by: 'size', widthM: 0.3, heightM: 1, spacingM: 0.5, sillM: 0.9, jambM: 0.3 },
            glazing: project.glazings[0].id,
            revealM: 0.1,
            openable: true,
          });
        });
        return answered(await fetch(`${url}/api/projects/${id}/out?option=${option}&format=obj`));
      },
    },
    {
      name: 'a hip roof over 600 corners',
      wanted: '422 project',
      send: () =>
        saved(url, (_, of) =>
          of.masses.push(
            mass('hip', { outer: round(0, 0, 50, 600), holes: [] }, { roof: { kind: 'hip', pitchDeg: 30 } }),
          ),
        ),
    },
    {
      name: `${hips} hip roofs over 118 corners`,
      wanted: '200',
      send: () =>
        saved(url, (_, of) => {
          for (let i = 0; i < hips; i++)
            of.masses.push(
              mass(
                `hip${i}`,
                { outer: round(i * 100, 0, 40, 118), holes: [] },
                { roof: { kind: 'hip', pitchDeg: 30 } },
              ),
            );
        }),
    },
    {
      name: '20 courts of 800 corners',
      wanted: '200',
      send: () =>
        saved(url, (_, of) =>
          of.masses.push(
            mass('courts', {
              outer: round(0, 0, 300, 800),
              holes: Array.from({ length: 20 }, (_, i) =>
                round((i % 5) * 80 - 160, Math.floor(i / 5) * 80 - 120, 30, 800),
              ),
            }),
          ),
        ),
    },
    {
      name: '20,000 empty openings',
      wanted: '422 project',
      send: () =>
        saved(url, (_, of) =>
          of.masses.push(
            mass('m', { outer: round(0, 0, 10, 4), holes: [] }, { openings: Array(20_000).fill({}) }),
          ),
        ),
    },
    {
      name: 'a million empty openings',
      wanted: '422 project',
      send: () =>
        saved(url, (_, of) =>
          of.masses.push(
            mass('m', { outer: round(0, 0, 10, 4), holes: [] }, { openings: Array(1_000_000).fill({}) }),
          ),
        ),
    },
    {
      name: 'a document nested 100,000 deep',
      wanted: '422 project',
      send: () => post(url, '/projects', `{"project":${'['.repeat(100_000)}${']'.repeat(100_000)}}`),
    },
    {
      name: 'a list of 40 million numbers',
      wanted: '413 too-large',
      send: () => post(url, '/projects', `{"project":[${'1,'.repeat(40_000_000)}1]}`),
    },
    {
      name: '200 MB, compressed to 200 kB',
      wanted: '415 type',
      send: () =>
        post(url, '/projects', gzipSync(Buffer.alloc(many(200 * 1048576), 32)), {
          ...json,
          'Content-Encoding': 'gzip',
        }),
    },
    {
      name: 'a sound document of some 60 MB',
      wanted: '200',
      send: () =>
        saved(url, (project) => {
          for (let i = 0; i < many(4800); i++)
            project.neighbours.push({
              kind: 'building',
              ...mass(`n${i}`, { outer: round((i % 70) * 30, Math.floor(i / 70) * 30, 10, 300), holes: [] }),
            });
        }),
    },
    {
      name: 'a sliver of 500 m as target, planned',
      wanted: '201',
      async send() {
        const { id, option } = await saved(url, (project) => {
          const w = 0.01 / Math.SQRT2;
          const outline = [
            [0, 0],
            [500, 500],
            [500 - w, 500 + w],
            [-w, w],
          ];
          project.targets.push({ id: 't', name: 'T', kind: 'ground', outline, spacingM: 0.1, offsetM: 0.1 });
          project.studies.push({
            id: 's',
            name: 'S',
            kind: 'sun-hours',
            targets: ['t'],
            window: {
              from: `${project.site.year}-03-21`,
              to: `${project.site.year}-03-21`,
              startMinutes: 0,
              endMinutes: 1440,
            },
            stepMinutes: 60,
            criterion: { atLeast: 2, share: 0.5, source: '' },
            scale: null,
          });
        });
        return post(url, `/projects/${id}/runs`, JSON.stringify({ study: 's', option }));
      },
    },
    {
      name: 'a revision over 2³¹',
      wanted: '400 request',
      async send() {
        const { id, project } = await empty(url);
        return post(url, `/projects/${id}`, JSON.stringify({ revision: 2 ** 40, project }), json, 'PUT');
      },
    },
    {
      name: 'a name with NUL',
      wanted: '422 project',
      send: () => post(url, '/projects', JSON.stringify({ name: 'a\0b' })),
    },
    {
      name: 'an id with NUL',
      wanted: '404 not-found',
      send: () => fetch(`${url}/api/projects/a%00b`).then(answered),
    },
    {
      name: 'a page of another site',
      wanted: '403 origin',
      send: () => post(url, '/projects', '{"name":"x"}', { ...json, Origin: 'http://elsewhere.example' }),
    },
  ];
}

const PATHS = [
  ['GET', '/projects'],
  ['POST', '/projects'],
  ['GET', '/projects/kelp-lane'],
  ['PUT', '/projects/kelp-lane'],
  ['GET', '/projects/kelp-lane/file'],
  ['GET', '/projects/kelp-lane/out?option=a&format=geojson'],
  ['POST', '/projects/kelp-lane/runs'],
  ['GET', '/projects/kelp-lane/runs?limit=5&offset=0'],
  ['GET', '/runs/00000000-0000-4000-8000-000000000000'],
  ['POST', '/runs/00000000-0000-4000-8000-000000000000/stop'],
  ['GET', '/meshes/00'],
  ['GET', '/underlays/00'],
  ['GET', '/speed'],
];
const ODD = [
  null,
  true,
  -1,
  0,
  1e308,
  2 ** 53,
  '',
  'a'.repeat(300),
  '\0',
  '\ud800',
  '💠',
  [],
  {},
  [[]],
  '__proto__',
  -0.5,
];

/** A request with something of it made odd. */
export function mutated(random, kelp) {
  const pick = (list) => list[Math.floor(random() * list.length)];
  let [method, path] = pick(PATHS);
  let body;
  if (method === 'POST' || method === 'PUT') {
    body = path.endsWith('/runs')
      ? { study: kelp.project.studies[0].id, option: 'a' }
      : method === 'PUT'
        ? { revision: 1, project: structuredClone(kelp.project) }
        : { project: structuredClone(kelp.project) };
    for (let i = 0; i <= Math.floor(random() * 3); i++) spoil(random, pick, body);
    body = JSON.stringify(body);
    if (random() < 0.15) body = body.slice(0, Math.floor(random() * body.length));
  }
  if (random() < 0.3) {
    const at = Math.floor(random() * path.length);
    path = `${path.slice(0, at)}${encodeURIComponent(pick(['\0', '..', '/', '%', '💠', "'", '"', ' ', '%00']))}${path.slice(at)}`;
  }
  if (random() < 0.1) method = pick(['GET', 'PUT', 'POST', 'PATCH', 'OPTIONS']);
  if (method === 'GET') body = undefined;
  return { method, path: path.startsWith('/') ? path : `/${path}`, body };
}

/** Puts something odd in a place of a value, or takes the place away. */
function spoil(random, pick, value) {
  let at = value;
  for (;;) {
    const keys = Object.keys(at);
    if (keys.length === 0) return;
    const key = pick(keys);
    const inner = at[key];
    if (typeof inner === 'object' && inner !== null && random() < 0.85) {
      at = inner;
      continue;
    }
    if (random() < 0.2) delete at[key];
    else at[key] = pick(ODD);
    return;
  }
}
