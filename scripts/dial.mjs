import { bundle } from './bundle.mjs';

/** The command line, bundled anew when a source changed. */
await bundle();
await import(new URL('../dist/cli/dial.js', import.meta.url).href);
