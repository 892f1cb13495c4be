import { formatLength, groundLevel, type Point2, type Scene, underlayCorners } from '@dial-shade/core';
import { useEffect, useMemo, useState } from 'react';
import { useStage } from '../app/use-stage';
import { underlayInHand, useUnderlays } from '../site/underlay-store';
import { notify } from '../state/notice-store';
import { forgetWithProject, useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { SCENE } from '../theme/palette';
import { ball, dashed, polyline, segments } from './overlay-lines';
import type { PaneView } from './pane-view';
import { underlayHandles } from './underlay-handles';
import { forgetUnderlayImages, underlayImage } from './underlay-images';
import { forgetUnderlayTextures, underlayObject } from './underlay-objects';
import { useLabels, useLayer } from './use-layer';

forgetWithProject(() => {
  forgetUnderlayImages();
  forgetUnderlayTextures();
});

/** How far lines over pictures are held off the ground, metres. */
const LIFT_M = 0.1;
/** Size of a handle as a share of the picture's width, and its least, metres. */
const HANDLE_SHARE = 0.008;
const MIN_HANDLE_M = 0.15;

/** Pictures on the ground, and the outline, the handles and the points of the one that is worked on. */
export function UnderlayOverlay({ view, scene }: { view: PaneView; scene: Scene }) {
  const { underlays, site, units } = useDocument();
  const { ground } = site;
  const theme = useView((v) => v.theme);
  const isSite = useStage() === 'site';
  const tool = useView((v) => v.tool);
  const { chosen, points, pointer } = useUnderlays();
  const images = useImages(underlays.flatMap(({ picture, shown }) => (shown ? [picture] : [])));
  const make = () =>
    underlays.flatMap((underlay, rank) => {
      const image = underlay.shown && images.get(underlay.picture);
      return image ? [underlayObject(underlay, image, { ground, scene, theme, rank })] : [];
    });
  useLayer(view, make, [underlays, images, ground, scene, theme]);

  const hand = isSite ? underlays.find(({ id, shown }) => id === chosen && shown) : undefined;
  const at = ([x, y]: Point2): [number, number, number] => [x, y, groundLevel(ground, [x, y]) + LIFT_M];
  const isHeld = hand !== undefined && underlayInHand({ underlays }, hand.id) === hand;
  const frame = () => {
    if (!hand) return [];
    const { accent, sun } = SCENE[theme];
    const outline = underlayCorners(hand).map(at);
    if (!isHeld) return [segments(dashed(outline, 1, true), accent, 0.9, 10)];
    const size = Math.max(MIN_HANDLE_M, hand.widthPx * hand.metresPerPixel * HANDLE_SHARE);
    const [, turn] = underlayHandles(hand, ground);
    const side = outline[1]!.map((v, k) => (v + outline[2]![k]!) / 2) as [number, number, number];
    return [
      segments([...polyline(outline, true), ...polyline([side, turn!.at])], accent, 1, 10),
      ...underlayHandles(hand, ground).map((one) => ball(one.at, size, one.kind === 'move' ? accent : sun)),
    ];
  };
  useLayer(view, frame, [hand, isHeld, ground, theme]);

  const isPointing = tool.kind === 'scale-underlay' || tool.kind === 'fit-underlay';
  const line = useMemo(
    () => (isPointing ? [...points, ...(pointer && points.length % 2 === 1 ? [pointer] : [])] : []),
    [isPointing, points, pointer],
  );
  const marks = () =>
    line.length > 0
      ? [
          segments(line.length > 1 ? polyline(line.slice(-2).map(at)) : [], SCENE[theme].sun, 1, 12, true),
          ...line.map((p) =>
            segments(
              crossAt(at(p), hand ? hand.widthPx * hand.metresPerPixel * MARK_SHARE : 1),
              SCENE[theme].ink,
              1,
              13,
              true,
            ),
          ),
        ]
      : [];
  useLayer(view, marks, [line, hand, ground, theme]);
  const labels = useMemo(() => {
    if (tool.kind !== 'scale-underlay' || line.length < 2) return [];
    const [a, b] = line as [Point2, Point2];
    const middle: Point2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    const z = groundLevel(ground, middle) + LIFT_M;
    const text = `now ${formatLength(Math.hypot(b[0] - a[0], b[1] - a[1]), units)}`;
    return [{ text, at: [...middle, z] as [number, number, number], className: 'dimension' }];
  }, [tool.kind, line, ground, units]);
  useLabels(view, 'underlay', labels);
  return null;
}

/** Half the size of the mark of a point as a share of the picture's width. */
const MARK_SHARE = 0.012;

function crossAt([x, y, z]: readonly [number, number, number], r: number): number[] {
  return [x - r, y, z, x + r, y, z, x, y - r, z, x, y + r, z];
}

/** The pictures of these hashes that have come so far; one that cannot be had is told once. */
function useImages(hashes: readonly string[]): ReadonlyMap<string, ImageBitmap> {
  const [images, setImages] = useState<ReadonlyMap<string, ImageBitmap>>(new Map());
  const wanted = hashes.filter((hash) => !images.has(hash)).join();
  useEffect(() => {
    let isShown = true;
    for (const hash of wanted ? wanted.split(',') : [])
      underlayImage(hash).then(
        (image) => isShown && setImages((now) => new Map(now).set(hash, image)),
        (error: Error) =>
          isShown && notify(`A picture on the ground could not be fetched: ${error.message}`, true),
      );
    return () => {
      isShown = false;
    };
  }, [wanted]);
  return images;
}
