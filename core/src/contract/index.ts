export {
  errorSchema,
  type ProjectLine,
  projectLineSchema,
  type RunLine,
  runNewsSchema,
  runSchema,
  savedSchema,
  type StoredProject,
  storedProjectSchema,
} from './contract';
