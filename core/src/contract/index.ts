export {
  errorSchema,
  type PictureLine,
  pictureSchema,
  type ProjectLine,
  projectLineSchema,
  type RunLine,
  runNewsSchema,
  runSchema,
  savedSchema,
  type StoredProject,
  storedProjectSchema,
} from './contract';
