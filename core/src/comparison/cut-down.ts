import { massFigures, massLevels } from '../form';
import { type Mass, type Project, requireOption } from '../project';
import { withStoreyCount } from './massing-sweep';

/** What is left of an option's massing that is cut down to a level, in whole storeys. */
export interface CutDown {
  masses: Mass[];
  /** Floor area before, and of it what goes, m². */
  floorM2: number;
  lostM2: number;
  /** Of each mass that loses any: how many of its storeys go. */
  lost: { name: string; storeys: number }[];
}

/** Below this, in metres, a storey that reaches over the level still counts as under it. */
const SLACK_M = 1e-6;

/**
 * The masses of an option without the storeys that reach over a level of the drawing; what stands wholly over it goes, and
 * a roof over a mass that is cut becomes flat. Devices and bodies that are marked as such stay.
 */
export function cutDown(project: Project, optionId: string, levelM: number): CutDown {
  const { ground } = project.site;
  const found: CutDown = { masses: [], floorM2: 0, lostM2: 0, lost: [] };
  for (const mass of requireOption(project, optionId).masses) {
    if (mass.device) {
      found.masses.push(mass);
      continue;
    }
    const { floorM, topM } = massLevels(mass, ground);
    const before = massFigures(mass).floorM2;
    found.floorM2 += before;
    let [kept, top] = [0, floorM];
    for (const { heightM } of mass.storeys) {
      if (top + heightM > levelM + SLACK_M) break;
      top += heightM;
      kept++;
    }
    if (kept === mass.storeys.length && topM <= levelM + SLACK_M) {
      found.masses.push(mass);
      continue;
    }
    const storeys = mass.storeys.length - kept;
    if (storeys > 0) found.lost.push({ name: mass.name, storeys });
    if (kept === 0) {
      found.lostM2 += before;
      continue;
    }
    const roof: Mass['roof'] = mass.roof.kind === 'flat' ? mass.roof : { kind: 'flat', parapetM: 0 };
    const left = { ...withStoreyCount(mass, kept), roof };
    found.masses.push(left);
    found.lostM2 += before - massFigures(left).floorM2;
  }
  return found;
}
