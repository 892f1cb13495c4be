import type { Face } from '../form';
import type { FittedOpening } from '../openings';
import type { OpeningBox } from './device-boxes';

/** A glazed opening that a device hangs on. */
export interface DevicePlace {
  /** Body that the opening is in. */
  owner: { id: string; name: string };
  face: Face;
  opening: FittedOpening;
  box: OpeningBox;
}
