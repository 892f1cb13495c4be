import { maskWords } from '../../trace';
import { type OpenDirections, openRow, weightsBefore, type WeighedAt } from './kind';
import { sameFacing } from './open-sums';
import type { HourlyRadiation, RadiationSamples } from './radiation-samples';

/** Patches in a group whose sky is told from above by its brightest. */
const GROUP = 32;

/**
 * The strongest hour of each sensor, W/m², and when it begins (month × 10,000 + day × 100 + hour). Hours are tried from
 * that on which most would arrive if nothing stood in the way; no later one is tried that could not be stronger.
 */
export function peakHours(
  open: OpenDirections,
  samples: RadiationSamples,
  hourly: HourlyRadiation,
  at: Pick<WeighedAt, 'normals'>,
): { peak: Float32Array; peakAt: Float32Array } {
  const { count, suns, patches } = samples;
  const [peak, peakAt] = [new Float32Array(open.sensors), new Float32Array(open.sensors).fill(NaN)];
  const passed = new Float64Array(maskWords(count) * 32);
  const seen = new Float64Array(patches);
  const groups = Math.ceil(patches / GROUP);
  const openIn = new Float64Array(groups);
  for (const sensors of sameFacing(open, at.normals, () => '')) {
    const facing = new FacingHours(samples, hourly, at, open.from + sensors[0]!);
    const { cosines, order } = facing;
    for (const s of sensors) {
      openRow(open, count, s, passed);
      openIn.fill(0);
      for (let p = 0; p < patches; p++) {
        seen[p] = passed[suns + p]! * cosines[suns + p]!;
        openIn[Math.floor(p / GROUP)]! += passed[suns + p]!;
      }
      let [most, when] = [0, -1];
      for (const k of order) {
        if (facing.most[k]! <= most) break;
        const straight = facing.reflected[k]! + facing.beam(k, passed);
        if (straight + facing.skyAtMost(k, openIn) <= most) continue;
        let sky = 0;
        const from = k * patches;
        for (let p = 0; p < patches; p++) sky += hourly.sky[from + p]! * seen[p]!;
        if (straight + sky > most) [most, when] = [straight + sky, k];
      }
      peak[s] = most;
      if (when >= 0) peakAt[s] = hourly.stamp[when]!;
    }
  }
  return { peak, peakAt };
}

/** The hours as a surface that faces one way has them. */
class FacingHours {
  readonly cosines: Float64Array;
  /** W/m² with nothing in the way, and what of it comes off the ground. */
  readonly most: Float64Array;
  readonly reflected: Float64Array;
  /** Hours, strongest first. */
  readonly order: Uint32Array;
  private readonly groups: number;
  /** Of each group of patches in each hour: what all of it gives, and the most that one patch does. */
  private readonly skyOf: Float64Array;
  private readonly brightest: Float64Array;

  constructor(
    samples: RadiationSamples,
    private readonly hourly: HourlyRadiation,
    at: Pick<WeighedAt, 'normals'>,
    sensor: number,
  ) {
    const { count, suns, patches } = samples;
    this.cosines = new Float64Array(count);
    weightsBefore(samples, at, sensor, this.cosines, (_, cosine) => cosine);
    const groups = (this.groups = Math.ceil(patches / GROUP));
    this.skyOf = new Float64Array(hourly.count * groups);
    this.brightest = new Float64Array(hourly.count * groups);
    const below = (1 - at.normals[sensor * 3 + 2]!) / 2;
    this.reflected = hourly.reflected.map((reflected) => reflected * below);
    this.most = new Float64Array(hourly.count);
    const all = new Float64Array(suns).fill(1);
    for (let k = 0; k < hourly.count; k++) {
      let sky = 0;
      for (let p = 0; p < patches; p++) {
        const part = hourly.sky[k * patches + p]! * this.cosines[suns + p]!;
        const g = k * groups + Math.floor(p / GROUP);
        this.skyOf[g]! += part;
        if (part > this.brightest[g]!) this.brightest[g] = part;
        sky += part;
      }
      this.most[k] = (sky + this.reflected[k]! + this.beam(k, all)) * (1 + 1e-12);
    }
    this.order = Uint32Array.from(this.most, (_, k) => k).sort((a, b) => this.most[b]! - this.most[a]!);
  }

  /** Beam of hour k, W/m², of what gets through from each sun. */
  beam(k: number, passed: Float64Array): number {
    const { sunOf, sunEnds, beam } = this.hourly;
    let sum = 0;
    for (let i = k > 0 ? sunEnds[k - 1]! : 0; i < sunEnds[k]!; i++)
      sum += passed[sunOf[i]!]! * this.cosines[sunOf[i]!]!;
    return sum * beam[k]!;
  }

  /** No less than the sky of hour k, where so much of each group of patches is open. */
  skyAtMost(k: number, openIn: Float64Array): number {
    let sum = 0;
    for (let g = 0; g < this.groups; g++)
      sum += Math.min(this.skyOf[k * this.groups + g]!, this.brightest[k * this.groups + g]! * openIn[g]!);
    return sum * (1 + 1e-12);
  }
}
