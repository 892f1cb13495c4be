import {
  emptyProject,
  madeUpWeather,
  type Mesh,
  planStudy,
  type Project,
  runStudy,
  type Study,
  STUDY_KINDS,
  type StudyPlan,
  weldMesh,
} from '@dial-shade/core';
import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { city } from './city';

const MESH = 'c'.repeat(64);
/** Every so many sensors are done by brute force; its time for all is told from them. */
const EVERY = 50;
const PLACE = { name: 'City', latitudeDeg: 51.5, longitudeDeg: 0, elevationM: 20 };

interface StudyOutcome {
  study: string;
  sensors: number;
  directions: number;
  rays: number;
  seconds: number;
  /** The same once more, what a process makes once at hand: the year's suns and skies, the plan. What brute force is held against has no more to do. */
  againSeconds: number;
  /** From the begin to the first coarse picture. */
  coarseSeconds: number;
  /** Reckoned from every fiftieth sensor. */
  referenceSeconds: number;
  ratio: number;
  /** Greatest difference between the two values at the sensors that both have, as a share of the value on open ground. */
  differing: number;
}

/** The large city as a neighbour, a plaza of some five thousand cells in its middle, and a whole hourly year. */
export function document(): { project: Project; meshes: Map<string, Mesh> } {
  const { positions } = city('L', 49_000, 2);
  const mesh = weldMesh({
    positions,
    triangles: Uint32Array.from({ length: positions.length / 3 }, (_, i) => i),
  });
  const made = emptyProject('City', 2026);
  const study = (id: string, kind: Study['kind']): Study => ({
    id,
    name: STUDY_KINDS[kind].name,
    kind,
    targets: ['plaza'],
    window: { from: '2026-01-01', to: '2026-12-31', startMinutes: 0, endMinutes: 1440 },
    stepMinutes: 60,
    criterion: { atLeast: 1, share: 0.5, source: '' },
    scale: null,
  });
  const project: Project = {
    ...made,
    site: {
      ...made.site,
      place: { ...made.site.place, ...PLACE, zone: 'Etc/UTC' },
      // What brute force sums as well; what tracing it takes more is told beside.
      thrownBack: 'open',
      weather: madeUpWeather({ ...PLACE, standardTimeH: 0 }, 1, 2026),
    },
    neighbours: [
      {
        kind: 'mesh',
        id: 'city',
        name: 'City',
        mesh: MESH,
        triangles: mesh.triangles.length / 3,
        move: [0, 0, 0],
        turnDeg: 0,
        openness: 0,
        openings: [],
        demolished: false,
      },
    ],
    targets: [
      {
        id: 'plaza',
        name: 'Plaza',
        kind: 'ground',
        outline: [
          [-35, -35],
          [35.7, -35],
          [35.7, 35.7],
          [-35, 35.7],
        ],
        spacingM: 1,
        offsetM: 0.1,
      },
    ],
    studies: [study('year', 'insolation'), study('sky', 'vsc')],
  };
  return { project, meshes: new Map([[MESH, mesh]]) };
}

/** A whole year of insolation and the sky component in the large city, from document to values, beside brute force. */
export function studyBench(say: (line: string) => void): StudyOutcome[] {
  const { project, meshes } = document();
  return project.studies.map((study) => {
    const began = performance.now();
    const plan = planStudy(project, 'a', study, meshes);
    let coarse = 0;
    const values = runStudy(project, plan, meshes, {
      progress: (done) => {
        if (coarse === 0 && done >= plan.grid.coarse) coarse = (performance.now() - began) / 1000;
      },
    });
    const seconds = (performance.now() - began) / 1000;
    const anew = performance.now();
    runStudy(project, plan, meshes);
    const againSeconds = (performance.now() - anew) / 1000;
    const reference = bruteForce(meshes.get(MESH)!, plan, values[STUDY_KINDS[study.kind].measures[0].key]!);
    const outcome: StudyOutcome = {
      study: study.kind,
      sensors: plan.grid.count,
      directions: plan.directions.count,
      rays: plan.rays,
      seconds,
      againSeconds,
      coarseSeconds: coarse,
      referenceSeconds: reference.seconds,
      ratio: reference.seconds / seconds,
      differing: reference.differing,
    };
    say(
      `${study.name}: ${plan.grid.count} sensors × ${plan.directions.count} directions, from document to values ${seconds.toFixed(2)} s, first picture after ${coarse.toFixed(2)} s, once more ${againSeconds.toFixed(2)} s; brute force with three-mesh-bvh about ${reference.seconds.toFixed(0)} s: ${outcome.ratio.toFixed(0)} and ${(reference.seconds / againSeconds).toFixed(0)} times; values differ by at most ${(outcome.differing * 100).toFixed(3)} %`,
    );
    if (study.kind === 'insolation') {
      const traced = { ...project, site: { ...project.site, thrownBack: 'traced' as const } };
      const start = performance.now();
      runStudy(traced, planStudy(traced, 'a', study, meshes), meshes);
      const whole = (performance.now() - start) / 1000;
      say(`${study.name} with light thrown back traced: ${whole.toFixed(2)} s.`);
    }
    return outcome;
  });
}

/** The same values by one ray after another, for every fiftieth sensor. */
function bruteForce(
  mesh: Mesh,
  plan: StudyPlan,
  values: Float32Array,
): { seconds: number; differing: number } {
  const began = performance.now();
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(mesh.positions), 3));
  geometry.setIndex(new BufferAttribute(mesh.triangles, 1));
  const bvh = new MeshBVH(geometry);
  const building = (performance.now() - began) / 1000;
  const { grid, directions, targets, study } = plan;
  const at = { ...grid, targets };
  const weights = new Float64Array(directions.count);
  const ray = new Ray(new Vector3(), new Vector3());
  let [tracing, done, worst, most] = [0, 0, 0, 0];
  for (let s = 0; s < grid.count; s += EVERY) {
    const start = performance.now();
    const constant = STUDY_KINDS[study.kind].weights!(directions, at, s, weights);
    let [value, open] = [constant, constant];
    ray.origin.fromArray(grid.positions, s * 3);
    for (let d = 0; d < directions.count; d++) {
      if (weights[d] === 0) continue;
      open += weights[d]!;
      ray.direction.fromArray(directions.vectors, d * 3);
      if (!bvh.raycastFirst(ray, DoubleSide)) value += weights[d]!;
    }
    tracing += (performance.now() - start) / 1000;
    done++;
    if (Number.isNaN(values[s]!)) continue;
    worst = Math.max(worst, Math.abs(values[s]! - value));
    most = Math.max(most, open);
  }
  return { seconds: building + (tracing * grid.count) / done, differing: worst / most };
}
