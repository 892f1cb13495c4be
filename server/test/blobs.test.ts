import { contentHash, meshToBytes, newUnderlay, type Project } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import request from 'supertest';
import { greyPng } from '../../core/testing/pictures';
import { freshDatabase } from '../../scripts/fresh-database.mjs';
import { type Running, startServer } from '../src/server';
import { keepUp } from '../src/store/upkeep';

/** The real database server that scripts/test.mjs starts; each suite has a database of its own there. */
const admin = process.env.TEST_DATABASE_URL;
const describeWithDatabase = admin ? describe : describe.skip;

describeWithDatabase('what documents name by its content hash', () => {
  let running: Running;
  const http = () => request(running.url);
  beforeAll(async () => {
    running = await startServer(await freshDatabase(admin!, 'blobs_test'), 0);
  });
  afterAll(() => running?.close());

  const create = async (project: Project) => {
    const { body } = await http().post('/api/projects').send({ project }).expect(201);
    return body as { id: string; revision: number; project: Project };
  };

  test('meshes are kept by content, and what is no mesh is refused', async () => {
    const mesh = {
      positions: Float64Array.of(0, 0, 0, 9, 0, 0, 0, 0, 9),
      triangles: Uint32Array.of(0, 1, 2),
    };
    const bytes = Buffer.from(meshToBytes(mesh));
    const send = (data: Buffer) =>
      http().post('/api/meshes').set('Content-Type', 'application/octet-stream').send(data);
    const first = await send(bytes).expect(201);
    const again = await send(bytes).expect(201);
    expect(again.body).toEqual(first.body);
    const back = await http().get(`/api/meshes/${first.body.hash}`).buffer(true).expect(200);
    expect(Buffer.compare(back.body, bytes)).toBe(0);
    const refused = await send(Buffer.from('hello')).expect(422);
    expect(refused.body.message).toBe('These bytes are not a mesh.');

    const project = kelpLane();
    project.neighbours.push({
      kind: 'mesh',
      id: 'pier',
      name: 'Pier',
      mesh: first.body.hash,
      triangles: 1,
      move: [0, 0, 0],
      turnDeg: 0,
      openness: 0,
      openings: [],
      demolished: false,
    });
    const positions = Array.from(mesh.positions);
    const { id } = await create({
      ...project,
      meshes: { [first.body.hash]: { positions, triangles: [0, 1, 2] } },
    } as Project);
    const file = await http().get(`/api/projects/${id}/file`).expect(200);
    expect(file.body.meshes[first.body.hash]).toEqual({ positions, triangles: [0, 1, 2] });
  });

  test('pictures for the ground are kept by content, go out and come in with their project, and stay while it is there', async () => {
    const png = Buffer.from(greyPng(40, 20, (x) => 6 * x));
    const send = (data: Buffer) =>
      http().post('/api/underlays').set('Content-Type', 'application/octet-stream').send(data);
    const { body: told } = await send(png).expect(201);
    expect(told).toEqual({ hash: contentHash(new Uint8Array(png)), widthPx: 40, heightPx: 20 });
    const back = await http().get(`/api/underlays/${told.hash}`).buffer(true).expect(200);
    expect(Buffer.compare(back.body, png)).toBe(0);
    expect(back.headers['content-type']).toBe('application/octet-stream');
    await http().get(`/api/underlays/${told.hash}`).set('If-None-Match', `"${told.hash}"`).expect(304);
    await http().get(`/api/meshes/${told.hash}`).expect(404);
    expect((await send(png.subarray(0, 60)).expect(422)).body.message).toBe(
      'The picture is cut off; save it anew.',
    );
    expect((await send(Buffer.from('hello')).expect(422)).body.message).toBe(
      'This is no PNG or JPEG picture.',
    );

    const { hash: picture, ...size } = told;
    const plan = newUnderlay(kelpLane(), { name: 'Plan', picture, ...size }, [0, 0]);
    const { id } = await create({
      ...kelpLane(),
      underlays: [plan],
      pictures: { [picture]: png.toString('base64') },
    } as Project);
    const file = await http().get(`/api/projects/${id}/file`).expect(200);
    expect(file.body.pictures).toEqual({ [picture]: png.toString('base64') });
    const again = await create(file.body as Project);
    expect(again.project.underlays).toEqual([plan]);
    await keepUp(running.db);
    const unnamed = 'SELECT unnamed_since IS NULL AS named FROM blobs WHERE hash = $1';
    expect((await running.db.query(unnamed, [picture])).rows).toEqual([{ named: true }]);
    for (const one of [id, again.id]) await http().delete(`/api/projects/${one}`).expect(204);
    await keepUp(running.db);
    expect((await running.db.query(unnamed, [picture])).rows).toEqual([{ named: false }]);

    const { pictures: _, ...without } = file.body;
    const refused = await http().post('/api/projects').send({ project: without }).expect(422);
    expect(refused.body.message).toContain('The picture of “Plan” is not in the file.');
  });
});
