import { massLevels, modelVertices } from '../form';
import { bounds, type MeshStore, type Point3, type Ring } from '../geometry';
import type { openingsIn } from '../openings';
import type { Ground } from '../project';
import { groundAlong } from '../site';
import type { ModelProblem } from './model-problems';

/** A body that begins further over the ground than this, with nothing below it, is asked about, metres. */
const FLOATING_M = 3;

type Body = ReturnType<typeof openingsIn>['all'][number];

/** A body between its levels, with the box round its plan. */
interface Standing {
  of: Body;
  outline: Ring;
  lowM: number;
  topM: number;
  box: ReturnType<typeof bounds>;
}

/** Bodies that float in the air over nothing, and bodies that lie wholly under the ground; devices may hang anywhere. */
export function standingProblems(
  bodies: readonly Body[],
  ground: Ground,
  meshes?: MeshStore,
): ModelProblem[] {
  const all = bodies.flatMap((of): Standing[] => {
    const found = levelsOf(of, ground, meshes);
    return found ? [{ of, ...found, box: bounds(found.outline) }] : [];
  });
  return all.flatMap((one): ModelProblem[] => {
    const { of, outline, lowM, topM, box } = one;
    const { body, optionId } = of;
    if ('device' in body && body.device) return [];
    const under = groundAlong(ground, outline);
    const overM = lowM - under.highM;
    const isFloating = overM > FLOATING_M && !all.some((other) => carries(other, one));
    if (!isFloating && topM > under.lowM) return [];
    const at: Point3 = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2, (lowM + topM) / 2];
    return [
      {
        kind: 'standing',
        weight: 'ask',
        sentence: isFloating
          ? `“${body.name}” floats ${overM.toFixed(1)} m over the ground, with nothing under it; is its level told from the same height as the ground’s?`
          : `“${body.name}” lies under the ground: its top is ${(under.lowM - topM).toFixed(1)} m below; is its level told from the same height as the ground’s?`,
        at,
        sizeM: Math.max(box.maxX - box.minX, box.maxY - box.minY, 10),
        owner: { id: body.id, optionId },
      },
    ];
  });
}

/** Whether a body stands below another in plan and reaches up to it, or stands beside it from further down. */
function carries(other: Standing, one: Standing): boolean {
  const [a, b] = [other.box, one.box];
  return (
    other !== one &&
    other.lowM < one.lowM - 1e-6 &&
    other.topM >= one.lowM - FLOATING_M &&
    a.minX <= b.maxX &&
    b.minX <= a.maxX &&
    a.minY <= b.maxY &&
    b.minY <= a.maxY
  );
}

function levelsOf({ body }: Body, ground: Ground, meshes?: MeshStore) {
  if (!('mesh' in body)) {
    const { bottomM, topM } = massLevels(body, ground);
    return { outline: body.footprint.outer as Ring, lowM: bottomM, topM };
  }
  const mesh = meshes?.get(body.mesh);
  if (!mesh) return null;
  const vertices = modelVertices(body, mesh);
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ] as [number[], number[]];
  for (let i = 0; i < vertices.length; i++) {
    const k = i % 3;
    low[k] = Math.min(low[k]!, vertices[i]!);
    high[k] = Math.max(high[k]!, vertices[i]!);
  }
  const outline: Ring = [
    [low[0]!, low[1]!],
    [high[0]!, low[1]!],
    [high[0]!, high[1]!],
    [low[0]!, high[1]!],
  ];
  return { outline, lowM: low[2]!, topM: high[2]! };
}
