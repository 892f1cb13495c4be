import { z } from 'zod';
import { MAX_PICTURE_SIDE } from '../constants';
import { bounded, id, name, point2, whole, yesNo } from './parts';

/** A picture that lies on the ground, to be traced over: a scanned plan, an aerial photograph. It casts no shade. */
export const underlaySchema = z.strictObject({
  id,
  name,
  /** SHA-256 of the bytes of its picture, a PNG or a JPEG. */
  picture: z
    .string({ error: 'A picture is named by its SHA-256 in hexadecimal.' })
    .regex(/^[0-9a-f]{64}$/, { error: 'A picture is named by its SHA-256 in hexadecimal.' }),
  widthPx: whole('The width of the picture', 1, MAX_PICTURE_SIDE),
  heightPx: whole('The height of the picture', 1, MAX_PICTURE_SIDE),
  /** Where the middle of the picture lies. */
  at: point2,
  /** How much of the ground a pixel covers. */
  metresPerPixel: bounded('The scale of the picture', 1e-5, 1000, 'm a pixel'),
  /** Whether that was told by a length in it, or by the scale that it is drawn to; else it is a guess. */
  scaled: yesNo('Whether the picture is to scale'),
  /** How far it is turned about its middle, anticlockwise. */
  turnDeg: bounded('The turn of the picture', -360, 360, 'degrees'),
  /** How strong it is drawn: 1 as it is. */
  opacity: bounded('How strong the picture is drawn', 0.05, 1),
  locked: yesNo('Whether the picture is locked'),
  shown: yesNo('Whether the picture is shown'),
});

export type Underlay = z.infer<typeof underlaySchema>;
