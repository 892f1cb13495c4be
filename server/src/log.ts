import { pino } from 'pino';

/** Structured logs, one JSON object a line, on standard error so that standard output stays for people. */
export const log = pino(
  { level: process.env.DIAL_SHADE_LOG ?? (process.env.NODE_ENV === 'test' ? 'silent' : 'info'), base: null },
  pino.destination(2),
);
