import fc from 'fast-check';

/**
 * Random cases are the same at every run, so that what lands does not hang on luck; `FAST_CHECK_SEED=N` tries others, and
 * `FAST_CHECK_SEED=random` new ones each time.
 */
const asked = process.env['FAST_CHECK_SEED'];
if (asked !== 'random')
  fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: Number(asked ?? 20_261_126) });
