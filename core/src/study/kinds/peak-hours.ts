import { DEG } from '../../civil';
import { NEAREST, patchAt, skyNeighbours, SkyRadiance, skySpiral, skyVault } from '../../sky';
import { maskWords } from '../../trace';
import { type OpenDirections, openRow, weightsBefore, type WeighedAt } from './kind';
import { sameFacing } from './open-sums';
import { offOpenGround } from './open-ground';
import { type HourlyRadiation, type RadiationSamples, SKY_NODES } from './radiation-samples';

/** Patches in a group whose sky is told from above by its brightest. */
const GROUP = 32;

/**
 * The strongest hour of each sensor, W/m², and when it begins (month × 10,000 + day × 100 + hour). Hours are tried from
 * that on which most would arrive if nothing stood in the way; no later one is tried that could not be stronger.
 * @param thrownBack W/m² of each hour onto a sensor of the stretch; of open ground when left out
 */
export function peakHours(
  open: OpenDirections,
  samples: RadiationSamples,
  hourly: HourlyRadiation,
  at: Pick<WeighedAt, 'normals' | 'covered'>,
  thrownBack: ((sensor: number) => Float64Array) | null = null,
): { peak: Float32Array; peakAt: Float32Array } {
  const { count, suns, parts } = samples;
  const { patches, patchOf, share, sky } = patchesOf(samples);
  const [peak, peakAt] = [new Float32Array(open.sensors), new Float32Array(open.sensors).fill(NaN)];
  const passed = new Float64Array(maskWords(count) * 32);
  const seen = new Float64Array(patches);
  const groups = Math.ceil(patches / GROUP);
  const openIn = new Float64Array(groups);
  for (const sensors of sameFacing(open, at.normals, () => '')) {
    const facing = new FacingHours(samples, hourly, at, open.from + sensors[0]!, thrownBack === null);
    const { cosines, order } = facing;
    for (const s of sensors) {
      openRow(open, count, s, passed);
      openIn.fill(0);
      seen.fill(0);
      for (let d = 0; d < parts; d++)
        seen[patchOf[d]!]! += passed[suns + d]! * cosines[suns + d]! * share[d]!;
      for (let p = 0; p < patches; p++) openIn[Math.floor(p / GROUP)]! += seen[p]!;
      let [most, when] = [0, -1];
      const back = thrownBack?.(s);
      const mostBack = back ? back.reduce((most, one) => Math.max(most, one), 0) : 0;
      for (const k of order) {
        if (facing.most[k]! + mostBack <= most) break;
        const straight = (back ? back[k]! : facing.reflected[k]!) + facing.beam(k, passed);
        if (straight + facing.skyAtMost(k, openIn) <= most) continue;
        let diffuse = 0;
        const from = hourly.skyAt[k]! * patches;
        for (let p = 0; p < patches; p++) diffuse += sky[from + p]! * seen[p]!;
        if (straight + diffuse > most) [most, when] = [straight + diffuse, k];
      }
      peak[s] = most;
      if (when >= 0) peakAt[s] = hourly.stamp[when]!;
    }
  }
  return { peak, peakAt };
}

/** The sky of each hour by patches of the vault, to which the directions of samples are gathered. */
interface Patches {
  patches: number;
  /** Of each direction: its patch, and its share of that. */
  patchOf: Uint16Array;
  share: Float64Array;
  /** W/m² on a plane that faces the patch: hours × patches. */
  sky: Float32Array;
}

const made = new WeakMap<RadiationSamples, Patches>();

/** What every hour has of each of 577 patches: hours are tried by the thousand, directions would be too many. */
function patchesOf(samples: RadiationSamples): Patches {
  let found = made.get(samples);
  if (!found) made.set(samples, (found = gathered(samples)));
  return found;
}

function gathered({ parts, skies }: RadiationSamples): Patches {
  const vault = skyVault(2);
  const patches = vault.count;
  const spiral = skySpiral(parts);
  const { vectors: v, solidAngle } = spiral;
  // Patches of the project frame: which way they are turned changes nothing of what falls on a surface.
  const patchOf = Uint16Array.from(solidAngle, (_, d) =>
    patchAt(vault, Math.asin(v[d * 3 + 2]!) * DEG, Math.atan2(v[d * 3]!, v[d * 3 + 1]!) * DEG),
  );
  const whole = new Float64Array(patches);
  solidAngle.forEach((angle, d) => (whole[patchOf[d]!]! += angle));
  const sky = new Float32Array(skies.count * patches);
  const one = new Float64Array(SKY_NODES);
  const nodes = skySpiral(SKY_NODES);
  const radiance = new SkyRadiance(nodes);
  const { of, weight } = skyNeighbours(nodes, spiral);
  for (let k = 0; k < skies.count; k++) {
    radiance.of(skies, k, one);
    for (let d = 0; d < SKY_NODES; d++) one[d]! /= nodes.solidAngle[d]!;
    for (let d = 0; d < parts; d++)
      for (let i = d * NEAREST; i < (d + 1) * NEAREST; i++)
        sky[k * patches + patchOf[d]!]! += weight[i]! * one[of[i]!]! * solidAngle[d]!;
  }
  return { patches, patchOf, share: solidAngle.map((angle, d) => angle / whole[patchOf[d]!]!), sky };
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
  /** Of each group of patches in each hour: what all of it gives, and its brightest patch on a plane that faces it. */
  private readonly skyOf: Float64Array;
  private readonly brightest: Float64Array;

  constructor(
    samples: RadiationSamples,
    private readonly hourly: HourlyRadiation,
    at: Pick<WeighedAt, 'normals' | 'covered'>,
    sensor: number,
    isOpenGround: boolean,
  ) {
    const { count, suns, parts } = samples;
    const { patches, patchOf, share, sky: skyOfHours } = patchesOf(samples);
    this.cosines = new Float64Array(count);
    weightsBefore(samples, at, sensor, this.cosines, (_, cosine) => cosine);
    const groups = (this.groups = Math.ceil(patches / GROUP));
    this.skyOf = new Float64Array(hourly.count * groups);
    this.brightest = new Float64Array(hourly.count * groups);
    const below = isOpenGround ? offOpenGround(at, sensor) : 0;
    this.reflected = hourly.reflected.map((reflected) => reflected * below);
    this.most = new Float64Array(hourly.count);
    const whole = new Float64Array(patches);
    for (let d = 0; d < parts; d++) whole[patchOf[d]!]! += this.cosines[suns + d]! * share[d]!;
    const all = new Float64Array(suns).fill(1);
    for (let k = 0; k < hourly.count; k++) {
      let sky = 0;
      for (let p = 0; p < patches; p++) {
        const all = skyOfHours[hourly.skyAt[k]! * patches + p]!;
        const part = all * whole[p]!;
        const g = k * groups + Math.floor(p / GROUP);
        this.skyOf[g]! += part;
        if (all > this.brightest[g]!) this.brightest[g] = all;
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

  /** No less than the sky of hour k, where so much of each group of patches is open, as cosines. */
  skyAtMost(k: number, openIn: Float64Array): number {
    let sum = 0;
    for (let g = 0; g < this.groups; g++)
      sum += Math.min(this.skyOf[k * this.groups + g]!, this.brightest[k * this.groups + g]! * openIn[g]!);
    return sum * (1 + 1e-12);
  }
}
