import { Router } from 'express';

/** A router whose addresses are met as they are written, or not at all: capitals and a closing slash count. */
export const strictRouter = (): Router => Router({ caseSensitive: true, strict: true });
