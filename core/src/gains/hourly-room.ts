import { InputError } from '../errors';

/** Classes of thermal mass, ISO 13790 table 12: area of the mass by floor area, and J/K by m² of floor. */
export const MASS_CLASSES = {
  'very light': { areaFactor: 2.5, heatKJ: 80 },
  light: { areaFactor: 2.5, heatKJ: 110 },
  medium: { areaFactor: 2.5, heatKJ: 165 },
  heavy: { areaFactor: 3, heatKJ: 260 },
  'very heavy': { areaFactor: 3.5, heatKJ: 370 },
} as const;
export type MassClass = keyof typeof MASS_CLASSES;

/** W/m²K: between the mass and its surfaces, and between surfaces and air; area of all surfaces by floor area. */
const H_MS = 9.1;
const H_IS = 3.45;
const SURFACES = 4.5;
/** Probe of the need, W/m² of floor. */
const PROBE = 10;
/** Hours of the end of the year that are run through first. */
const WARM_UP = 336;

/** A room as one zone: five conductances and one mass. Symbols as in ISO 13790:2008, annex C. */
export interface ZoneModel {
  floorAreaM2: number;
  mass: MassClass;
  /** Conductances to the outside, W/K: windows, what is opaque, and air. */
  hWindows: number;
  hOpaque: number;
  hVentilation: number;
}

/** What a year brings, hour by hour. */
export interface ZoneYear {
  /** Outside, °C; air comes in as it is outside. */
  outdoorC: Float64Array;
  /** Through glazing, and from people and things, W. */
  solarW: Float64Array;
  internalW: Float64Array;
}

/** Within what the air is to stay, °C, and the power there is for it, W; null: none. */
export interface SetPoints {
  heatC: number | null;
  coolC: number | null;
  heatW: number;
  coolW: number;
}

/** Hour by hour: air, mass (mean of the hour) and what is put in or taken out. */
export interface ZoneHours {
  airC: Float64Array;
  massC: Float64Array;
  surfaceC: Float64Array;
  heatingW: Float64Array;
  coolingW: Float64Array;
}

/**
 * The simple hourly method of ISO 13790:2008 (5R1C): the temperature of air, surfaces and mass of a zone through a year, and
 * the heating and cooling that keep the air within its set-points. The last two weeks are run through first.
 * Throws InputError `room` where conductances are none or the opaque ones are too great for the mass.
 */
export function hourlyRoom(model: ZoneModel, year: ZoneYear, setPoints: SetPoints): ZoneHours {
  const zone = new Zone(model);
  const hours = year.outdoorC.length;
  const make = () => new Float64Array(hours);
  const found: ZoneHours = {
    airC: make(),
    massC: make(),
    surfaceC: make(),
    heatingW: make(),
    coolingW: make(),
  };
  let mass = 20;
  const step = (h: number) => {
    const one = zone.hour(mass, year.outdoorC[h]!, year.solarW[h]!, year.internalW[h]!, setPoints);
    mass = one.massEnd;
    return one;
  };
  for (let h = Math.max(0, hours - WARM_UP); h < hours; h++) step(h);
  for (let h = 0; h < hours; h++) {
    const { air, surface, massMean, power } = step(h);
    found.airC[h] = air;
    found.surfaceC[h] = surface;
    found.massC[h] = massMean;
    found.heatingW[h] = Math.max(0, power);
    found.coolingW[h] = Math.max(0, -power);
  }
  return found;
}

/** Conductances of a zone, and an hour of it. */
class Zone {
  private readonly hEm: number;
  private readonly hMs: number;
  private readonly hIs: number;
  private readonly h1: number;
  private readonly h2: number;
  private readonly h3: number;
  private readonly massShare: number;
  private readonly storage: number;

  constructor(private readonly model: ZoneModel) {
    const { floorAreaM2, mass, hWindows, hOpaque, hVentilation } = model;
    const { areaFactor, heatKJ } = MASS_CLASSES[mass];
    const massArea = areaFactor * floorAreaM2;
    const surfaces = SURFACES * floorAreaM2;
    this.hMs = H_MS * massArea;
    if (!(floorAreaM2 > 0) || !(hVentilation > 0) || hWindows < 0 || hOpaque < 0)
      throw new InputError(
        'room',
        'A room needs a floor, and air that is changed; its losses are none below nothing.',
      );
    if (hOpaque >= this.hMs)
      throw new InputError(
        'room',
        `Opaque losses of ${hOpaque.toFixed(0)} W/K are more than the mass of the room can pass on (${this.hMs.toFixed(0)} W/K); lower the U-values.`,
      );
    this.hEm = hOpaque === 0 ? 0 : 1 / (1 / hOpaque - 1 / this.hMs);
    this.hIs = H_IS * surfaces;
    this.h1 = 1 / (1 / hVentilation + 1 / this.hIs);
    this.h2 = this.h1 + hWindows;
    this.h3 = 1 / (1 / this.h2 + 1 / this.hMs);
    this.massShare = massArea / surfaces;
    this.storage = (heatKJ * 1000 * floorAreaM2) / 3600;
  }

  /** One hour from the temperature that the mass has at its begin. */
  hour(massBefore: number, outdoor: number, solar: number, internal: number, set: SetPoints) {
    const free = this.with(massBefore, outdoor, solar, internal, 0);
    const wanted =
      set.heatC !== null && free.air < set.heatC
        ? set.heatC
        : set.coolC !== null && free.air > set.coolC
          ? set.coolC
          : null;
    if (wanted === null) return free;
    const probe = PROBE * this.model.floorAreaM2;
    const probed = this.with(massBefore, outdoor, solar, internal, probe);
    const need = (probe * (wanted - free.air)) / (probed.air - free.air);
    return this.with(massBefore, outdoor, solar, internal, Math.max(-set.coolW, Math.min(set.heatW, need)));
  }

  private with(massBefore: number, outdoor: number, solar: number, internal: number, power: number) {
    const { hEm, hMs, hIs, h1, h2, h3, massShare, storage } = this;
    const { hVentilation, hWindows, floorAreaM2 } = this.model;
    const within = 0.5 * internal + solar;
    const phiIa = 0.5 * internal;
    const phiM = massShare * within;
    const phiSt = (1 - massShare - hWindows / (H_MS * SURFACES * floorAreaM2)) * within;
    const phiTotal =
      phiM +
      hEm * outdoor +
      (h3 * (phiSt + hWindows * outdoor + h1 * ((phiIa + power) / hVentilation + outdoor))) / h2;
    const massEnd = (massBefore * (storage - 0.5 * (h3 + hEm)) + phiTotal) / (storage + 0.5 * (h3 + hEm));
    const massMean = (massBefore + massEnd) / 2;
    const surface =
      (hMs * massMean + phiSt + hWindows * outdoor + h1 * (outdoor + (phiIa + power) / hVentilation)) /
      (hMs + hWindows + h1);
    const air = (hIs * surface + hVentilation * outdoor + phiIa + power) / (hIs + hVentilation);
    return { massEnd, massMean, surface, air, power };
  }
}
