import { type Point2, type StudyResult, targetSurface } from '@dial-shade/core';
import { useDocument } from '../state/project-store';
import { useView } from '../state/view-store';
import { useProfile } from '../studies/profile-store';
import { SCENE } from '../theme/palette';
import { ball, polyline, segments } from './overlay-lines';
import type { PaneView } from './pane-view';
import { useLayer } from './use-layer';

/** How far the line is held off its target, metres; stretches in which it follows the ground. */
const LIFT_M = 0.12;
const STRETCHES = 40;

/** The line along which a result is read, and the place on it that is looked at. */
export function ProfileOverlay({ view, result }: { view: PaneView; result: StudyResult }) {
  const { ground } = useDocument().site;
  const theme = useView((v) => v.theme);
  const { line, draft, atM } = useProfile();
  const shown = draft ?? line;
  const target = shown && result.targets.find(({ id }) => id === shown.target);
  const make = () => {
    if (!shown || !target) return [];
    const surface = targetSurface(target, ground);
    const at = (share: number) => {
      const p = [0, 1].map((k) => shown.from[k]! + share * (shown.to[k]! - shown.from[k]!));
      return surface.at(p as unknown as Point2, LIFT_M);
    };
    const places = Array.from({ length: STRETCHES + 1 }, (_, i) => at(i / STRETCHES));
    const length = Math.hypot(shown.to[0] - shown.from[0], shown.to[1] - shown.from[1]);
    return [
      segments(polyline(places), SCENE[theme].ink, 1, 12, true),
      ball(places[0]!, 0.14, SCENE[theme].ink),
      ...(atM !== null && length > 0 ? [ball(at(atM / length), 0.28, SCENE[theme].sun)] : []),
    ];
  };
  useLayer(view, make, [shown, target, ground, theme, atM]);
  return null;
}
