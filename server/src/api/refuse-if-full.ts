import type { Database } from '../store/database';
import { FREE_BYTES, storageOf } from '../store/storage';
import { HttpError } from './answers';

const GB = 2 ** 30;

/**
 * Throws HttpError `storage-full` (507) where there is no more room for something new. What is there can always be changed and
 * saved.
 */
export async function refuseIfFull(db: Database): Promise<void> {
  const { bytes, limitBytes: limit, freeBytes } = await storageOf(db);
  if (bytes > limit)
    throw new HttpError(
      507,
      'storage-full',
      `Everything that is kept takes ${(bytes / GB).toFixed(1)} GB, and ${(limit / GB).toFixed(1)} GB is the most (DIAL_SHADE_STORAGE_GB); delete pictures or projects that are not needed any more. What is there can still be changed.`,
    );
  if (freeBytes < FREE_BYTES)
    throw new HttpError(
      507,
      'storage-full',
      `The disk has less than 1 GB left, so nothing new is taken; make room. What is there can still be changed.`,
    );
}
