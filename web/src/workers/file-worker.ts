import { expose } from 'comlink';
import { modelFileWork } from './model-file-work';

/** Reads model files: by itself, so that what computes need not carry the readers of every format. */
const worker = modelFileWork();

export type FileWorker = typeof worker;

expose(worker);
