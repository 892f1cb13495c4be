import {
  NONE,
  SILL,
  HEAD,
  WIDTH,
  house,
  ASKED,
  NOON,
  sunAt,
  total,
  lands,
} from '../../testing/room-with-window';
import { RAD } from '../civil';
import type { Point3 } from '../geometry';
import { type DeviceMake, type Project } from '../project';
import { roomRays } from './room-rays';

/** A light shelf at the window. */
function withShelf(shelf: Partial<Extract<DeviceMake, { kind: 'shelf' }>>): Project {
  const project = house({}, 'double');
  const option = project.options[1]!;
  const make: DeviceMake = { kind: 'shelf', heightM: 0.8, outM: 0, inM: 0, thicknessM: 0.001, ...shelf };
  const scope = { owners: null, sectors: null, storeys: null };
  option.schemes = [{ id: 's', name: 'S', devices: [{ id: 'd', name: 'D', scope, openings: null, make }] }];
  option.scheme = 's';
  return project;
}

test('the upper face of a light shelf outside throws as much into the room as a strip of its size tried in its place', () => {
  for (const tiltDeg of [0, 15]) {
    const [outM, heightM] = [0.6, 0.8];
    const drop = outM * Math.sin(tiltDeg * RAD);
    const strip = {
      from: [4, 0, SILL + heightM] as Point3,
      to: [4, -outM * Math.cos(tiltDeg * RAD), SILL + heightM - drop] as Point3,
      widthM: WIDTH,
      reflectance: 0.8,
      mirror: 1,
    };
    const bare = house({}, 'double');
    const at = NOON(bare);
    const asked = { ...ASKED, spacingM: 0.05, bounces: 2 };
    const tried = roomRays(bare, 'a', NONE, at, { ...asked, strip })!;
    const hung = withShelf({ outM, heightM, tiltDeg, reflectance: 0.8, mirror: 1 });
    const found = roomRays(hung, 'a', NONE, at, asked)!;
    expect(tried.enters).toBeGreaterThan(0);
    expect(Math.abs(found.enters - tried.enters)).toBeLessThan(0.02 * tried.enters);
    expect(Math.abs(lands(found, 'ceiling', 1) - lands(tried, 'ceiling', 1))).toBeLessThan(
      0.03 * lands(tried, 'ceiling', 1),
    );
    expect(lands(found, 'ceiling', 1)).toBeGreaterThan(0.05);
    expect(total(found)).toBeCloseTo(found.enters, 9);
    // Without a reflectance it only shades.
    const dull = roomRays(withShelf({ outM, heightM, tiltDeg }), 'a', NONE, at, asked)!;
    expect(dull.enters).toBeLessThan(found.enters);
  }
});

test('the sun that falls on a light shelf inside lands on it, and goes up to the ceiling by its reflectance', () => {
  const inM = 0.5;
  const project = withShelf({ inM, reflectance: 0.75, mirror: 1 });
  const at = NOON(project);
  const { vsaDeg } = sunAt(project, at);
  const surfaces = { reflectance: 0, mirror: 0 };
  const found = roomRays(project, 'a', NONE, at, { ...ASKED, surfaces, spacingM: 0.032, bounces: 1 })!;
  // The glass above it whose sun reaches no further than its depth, of all the glass.
  const above = Math.min(HEAD - SILL - 0.8, inM * Math.tan(vsaDeg * RAD));
  const share = above / (HEAD - SILL);
  expect(Math.abs(lands(found, 'devices', 0) / found.enters - share)).toBeLessThan(0.03);
  expect(lands(found, 'ceiling', 1)).toBeCloseTo(0.75 * lands(found, 'devices', 0), 6);
  expect(total(found)).toBeCloseTo(found.enters, 9);
});
