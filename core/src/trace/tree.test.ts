import fc from 'fast-check';
import { memoriesMade } from '../../testing/memories';
import { stream } from '../../testing/stream';
import { TriangleTree } from './tree';

const coordinate = fc.double({ min: -200, max: 200, noNaN: true });
const triangles = fc.array(fc.array(coordinate, { minLength: 9, maxLength: 9 }), {
  minLength: 1,
  maxLength: 150,
});

interface Node {
  box: number[];
  leaf: boolean;
  first: number;
  count: number;
  children: number[];
}

function node(tree: TriangleTree, n: number): Node {
  const link = tree.links[n * 2]!;
  const leaf = link < 0;
  return {
    box: Array.from(tree.bounds.subarray(n * 6, n * 6 + 6)),
    leaf,
    first: leaf ? ~link : -1,
    count: leaf ? tree.links[n * 2 + 1]! : 0,
    children: leaf ? [] : [n + 1, link],
  };
}

/** Visits every node with the boxes of those above it. */
function walk(tree: TriangleTree, visit: (node: Node, parent: Node | null) => void): void {
  const go = (n: number, parent: Node | null) => {
    const here = node(tree, n);
    visit(here, parent);
    for (const child of here.children) go(child, here);
  };
  go(0, null);
}

test('every triangle lies in exactly one leaf, within the box of the leaf and of every node above it', () => {
  fc.assert(
    fc.property(triangles, (list) => {
      const positions = Float64Array.from(list.flat());
      const tree = TriangleTree.build(positions);
      const seen = new Array<number>(list.length).fill(0);
      const wrong: string[] = [];
      const see = (isSo: boolean, what: string) => isSo || wrong.push(what);
      walk(tree, (here, parent) => {
        for (let k = 0; parent && k < 3; k++) {
          see(here.box[k]! >= parent.box[k]!, 'a node begins before the one above it');
          see(here.box[k + 3]! <= parent.box[k + 3]!, 'a node ends after the one above it');
        }
        for (let t = here.first; here.leaf && t < here.first + here.count; t++) {
          seen[tree.order[t]!]!++;
          for (let c = 0; c < 9; c++) {
            const value = tree.vertices[t * 9 + c]!;
            see(Object.is(value, positions[tree.order[t]! * 9 + c]!), 'a corner is another');
            see(value >= here.box[c % 3]!, 'a corner lies before its leaf');
            see(value <= here.box[(c % 3) + 3]!, 'a corner lies after its leaf');
          }
        }
      });
      expect(wrong).toEqual([]);
      expect(seen.every((times) => times === 1)).toBe(true);
    }),
    { numRuns: 60 },
  );
});

test('many triangles in the same place are still divided, and an empty tree is one', () => {
  const same = Float64Array.from({ length: 900 }, (_, i) => [0, 0, 0, 1, 0, 0, 0, 1, 0][i % 9]!);
  const tree = TriangleTree.build(same);
  let leaves = 0;
  walk(tree, (here) => {
    if (!here.leaf) return;
    leaves++;
    expect(here.count).toBeLessThanOrEqual(4);
  });
  expect(leaves).toBeGreaterThanOrEqual(25);
  expect(TriangleTree.build(new Float64Array(0)).links).toHaveLength(0);
});

test('the tree of a row of slats splits along the row', () => {
  const row = Array.from({ length: 64 }, (_, i) => [i * 10, 0, 0, i * 10 + 1, 0, 0, i * 10, 1, 0]).flat();
  const tree = TriangleTree.build(Float64Array.from(row));
  expect(tree.links[1]).toBe(0);
  const [left, right] = node(tree, 0).children.map((n) => node(tree, n).box);
  expect(left![3]!).toBeLessThan(right![0]!);
});

test('large trees are built in one memory, which leaves nothing of the one before', () => {
  const rand = stream(4);
  const heap = (count: number) => Float64Array.from({ length: count * 9 }, () => rand() * 100);
  const [one, other] = [heap(180_000), heap(200_000)];
  const built: TriangleTree[] = [];
  const made = memoriesMade(() => {
    for (const positions of [one, other, one]) built.push(TriangleTree.build(positions));
  });
  expect(made).toBe(1);
  const [first, , again] = built;
  for (const part of ['bounds', 'links', 'order'] as const)
    expect(Buffer.compare(Buffer.from(again![part].buffer), Buffer.from(first![part].buffer))).toBe(0);
});
