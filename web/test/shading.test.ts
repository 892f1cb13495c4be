import './browser-stand-in';
import {
  type DeviceMake,
  standScheme,
  sweepMakes,
  toBase64,
  withHandle,
  DEVICE_KINDS,
} from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { chosenDevice, deviceInHand, placesHung } from '../src/shading/device-in-hand';
import { sweepFromKept, sweepToKeep } from '../src/shading/kept-sweep';
import { windowNames } from '../src/shading/window-names';
import { frontOfTried, letInBy, type Tried } from '../src/shading/sweep-chart';

const NONE = new Map();
const project = standScheme('a', 'overhangs')(kelpLane());

test('the device in hand stands at the window that is looked at, its handles before the wall', () => {
  const device = chosenDevice(project, 'a', 'overhang')!;
  expect(chosenDevice(project, 'a', 'gone')).toBe(device);
  const places = placesHung(project, 'a', NONE, device);
  expect(places).toHaveLength(66);
  const [, , third] = places;
  const chosen = `${third!.owner.id}/${third!.opening.id}`;
  const hand = deviceInHand(project, 'a', NONE, { device: null, chosen })!;
  expect(hand.station.box).toBe(third!.box);
  expect(hand.handles.map(({ handle }) => handle.number)).toEqual(['depthM', 'aboveM', 'sideM', 'tiltDeg']);
  const { origin, normal } = third!.face;
  const before = hand.handles.map(({ at }) =>
    at.reduce((sum, v, k) => sum + (v - origin[k]!) * normal[k]!, 0),
  );
  // The edge stands 0.8 m out, what is dragged up and down at the wall.
  expect(before[0]).toBeCloseTo(0.8, 6);
  expect(before[1]).toBeCloseTo(0.02, 6);
  expect(hand.handles[0]!.axis.reduce((sum, v, k) => sum + v * normal[k]!, 0)).toBeCloseTo(1, 6);
  expect(withHandle(device.make, hand.handles[0]!.handle, 0.23)).toMatchObject({ depthM: 1.05 });
  // A window that it does not hang on: its first is taken; in Today and without a scheme there is none.
  expect(deviceInHand(project, 'a', NONE, { device: null, chosen: 'bar/none' })!.station.box).toBe(
    places[0]!.box,
  );
  expect(deviceInHand(project, 'today', NONE, { device: null, chosen: null })).toBeNull();
  expect(deviceInHand(kelpLane(), 'a', NONE, { device: null, chosen: null })).toBeNull();
});

test('every number that may be free is one of its kind, and its plain value lies between', () => {
  for (const { plain, free } of Object.values(DEVICE_KINDS))
    for (const { number, from, to } of free) {
      const value = (plain as Record<string, unknown>)[number] as number;
      expect(value).toBeGreaterThanOrEqual(from);
      expect(value).toBeLessThanOrEqual(to);
    }
});

test('the front is walked from what keeps out least to what keeps out most', () => {
  const make = DEVICE_KINDS.reveal.plain;
  const tried = [
    [0.9, 0.1, 0.2],
    [0.2, 0.9, 0.8],
    [0.5, 0.5, 0.9],
    [0.4, 0.4, 0.3],
  ].map(([keptOut, letIn, sky], at): Tried => ({
    ...{ make, at, keptOut: keptOut!, letIn: letIn!, sky: sky! },
    error: { keptOut: 0, letIn: 0, sky: 0 },
  }));
  expect(frontOfTried(tried, 'wanted').map(({ at }) => at)).toEqual([1, 2, 0]);
  expect(frontOfTried(tried, 'sky').map(({ at }) => at)).toEqual([2, 0]);
  expect(letInBy(tried[0]!, 'sky')).toBe(0.2);
  expect(letInBy({ ...tried[0]!, letIn: null }, 'wanted')).toBe(0);
});

test('a sweep is kept with what was found, is out of date when what it was tried in changes', () => {
  const make = DEVICE_KINDS.overhang.plain as DeviceMake;
  const kinds = [{ make, ranges: [{ number: 'depthM', from: 0.1, to: 1, steps: 4 }] }];
  const { makes, leftOut } = sweepMakes(kinds);
  const parts = [{ site: 1 }, new Map(), 'devices'];
  const found = [
    { keptOut: 0.25, letIn: 0.5, sky: 0.75, error: { keptOut: 0.125, letIn: 0.25, sky: 0.5 } },
    undefined,
    { keptOut: 1, letIn: null, sky: 0, error: { keptOut: 0.5, letIn: 0, sky: 0.25 } },
    undefined,
  ];
  const sweep = {
    ...{ optionId: 'a', opening: 'm/o', device: 'd', numbers: ['depthM'], makes, leftOut, found, parts },
    sets: { unwanted: 'u', wanted: 'w' },
    facts: null,
    earlier: [],
  };
  // Through the text that the server keeps.
  const kept = () => JSON.parse(JSON.stringify(sweepToKeep(sweep, kinds))) as Record<string, unknown>;
  expect(sweepFromKept(kept(), parts)).toEqual(sweep);
  // Another model of the same content is the same; a changed one is not.
  expect(sweepFromKept(kept(), [{ site: 1 }, new Map(), 'devices'])!.parts).toContain('devices');
  expect(sweepFromKept(kept(), [{ site: 2 }, new Map(), 'devices'])!.parts).not.toContain('devices');
  expect(sweepFromKept({ ...kept(), found: 'AAAA' }, parts)).toBeNull();
  expect(sweepFromKept({ ...kept(), kinds: 'none' }, parts)).toBeNull();
  // One of the first method had three numbers a device and no errors: it is shown, and says what has changed.
  const { method: _, ...first } = kept();
  const three = Float32Array.from([0.25, 0.5, 0.75, NaN, NaN, NaN, 1, NaN, 0, NaN, NaN, NaN]);
  const old = sweepFromKept({ ...first, found: toBase64(new Uint8Array(three.buffer)) }, parts)!;
  expect(old.found[0]).toEqual({
    keptOut: 0.25,
    letIn: 0.5,
    sky: 0.75,
    error: { keptOut: 0, letIn: 0, sky: 0 },
  });
  expect(old.earlier).toEqual([expect.stringContaining('Computed by an earlier method')]);
});

test('no two windows of a list have the same name', () => {
  const row = (face: string, sector: string | null, name: string, storey: number | null = 0) => ({
    ...{ key: `m/${face}/${name}`, name, face, body: 'Bar', storey, sector },
  });
  const rows = [
    row('wall/0/0/0', 'south', 'Flats 1'),
    row('wall/0/0/0', 'south', 'Flats 2'),
    row('wall/0/1/0', 'east', 'Flats 1'),
    row('wall/0/2/0', 'south', 'Flats 1'),
    row('roof/0', null, 'Light', null),
  ];
  expect([...windowNames(rows).values()]).toEqual([
    'Bar, storey 1, south · Flats 1, wall 1 of 2',
    'Bar, storey 1, south · Flats 2',
    'Bar, storey 1, east · Flats 1',
    'Bar, storey 1, south · Flats 1, wall 2 of 2',
    'Bar · Light',
  ]);
});
