import type { PictureLine } from '@dial-shade/core';
import { create } from 'zustand';
import type { PictureStyle } from './picture';
import { pictureMaker } from './picture-maker';
import type { SetPicture } from './picture-set';

export interface Job {
  what: 'pictures' | 'film';
  done: number;
  total: number;
  began: number;
  /** Seconds that each has taken so far, once one is done. */
  secondsEach: number | null;
}

/** A set that has been made, as long as the page lives. */
export interface MadeSet {
  pictures: (SetPicture & { name: string; picture: Blob })[];
  style: PictureStyle;
}

interface Pictures {
  isOpen: boolean;
  gallery: PictureLine[];
  /** There may be more than the gallery lists. */
  hasMore: boolean;
  job: Job | null;
  /** The job is to end where it stands. */
  isStopped: boolean;
  made: MadeSet | null;
  /** What came of the last job, in a sentence. */
  outcome: string | null;
}

const NOTHING: Pictures = {
  isOpen: false,
  gallery: [],
  hasMore: false,
  job: null,
  isStopped: false,
  made: null,
  outcome: null,
};

/** What is made and kept of pictures; `make-pictures` works on it. */
export const usePictures = create<Pictures>(() => NOTHING);

/** Forgets what belongs to the project that was open before. */
export function forgetPictures(): void {
  pictureMaker.end();
  usePictures.setState({ ...NOTHING, isStopped: true });
}
