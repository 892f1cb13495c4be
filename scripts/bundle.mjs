import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ROOT } from './console.mjs';

const SOURCES = [
  'core/src',
  'server/src',
  'cli/src',
  'samples/src',
  'package-lock.json',
  'scripts/bundle.mjs',
];
const MARK = join(ROOT, 'dist/.sources');

/** The bundles: what stands at the left of dist/ comes from what stands at the right. */
const ENTRIES = {
  'server/main': 'server/src/main.ts',
  'server/migrate-main': 'server/src/migrate-main.ts',
  'cli/dial': 'cli/src/main.ts',
  'cli/program': 'cli/src/program.ts',
  'cli/ifc-process': 'cli/src/ifc-process.ts',
};

/** Threads of the server: each reads all of its code anew, so it has no more than its own, and short. */
const THREADS = {
  'server/run-worker': 'server/src/jobs/run-worker.ts',
  'server/errand-worker': 'server/src/jobs/errand-worker.ts',
};

/** The words of errors in all languages but English, which the schemas bring along and nothing asks for. */
const oneLanguage = {
  name: 'one-language',
  setup(build) {
    build.onLoad({ filter: /zod\/v4\/locales\/index\.js$/ }, () => ({
      contents: "export { default as en } from './en.js';",
      loader: 'js',
    }));
  },
};

/** Names, times and lengths of all sources, so that a change of any is seen. */
export function stateOf(paths) {
  const seen = [];
  const walk = (path) => {
    const state = statSync(path, { throwIfNoEntry: false });
    if (!state) return;
    if (state.isDirectory()) for (const name of readdirSync(path)) walk(join(path, name));
    else seen.push(`${path.slice(ROOT.length)}:${state.mtimeMs}:${state.size}`);
  };
  for (const path of paths) walk(join(ROOT, path));
  return createHash('sha256').update(seen.sort().join('\n')).digest('hex');
}

/** Bundles server, worker threads and command line when a source changed since they were bundled last. */
export async function bundle({ watch = false } = {}) {
  const now = stateOf(SOURCES);
  if (!watch && existsSync(MARK) && readFileSync(MARK, 'utf8') === now) return;
  const esbuild = await import('esbuild');
  const options = {
    absWorkingDir: ROOT,
    outdir: 'dist',
    bundle: true,
    plugins: [oneLanguage],
    format: 'esm',
    platform: 'node',
    target: 'node20',
    // What starts workers of its own, or reads files beside itself, stays where it is.
    external: [
      'web-ifc',
      'piscina',
      'pg-boss',
      'pg',
      'node-pg-migrate',
      'pino',
      'pino-http',
      'express',
      'helmet',
    ],
    banner: {
      js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);",
    },
    sourcemap: 'linked',
    logLevel: 'warning',
  };
  const builds = [
    { ...options, entryPoints: ENTRIES, splitting: true, chunkNames: 'chunks/[name]-[hash]' },
    { ...options, entryPoints: THREADS, minifyWhitespace: true, minifySyntax: true },
  ];
  if (watch) {
    for (const one of builds) await (await esbuild.context(one)).watch();
    return;
  }
  await Promise.all(builds.map((one) => esbuild.build(one)));
  mkdirSync(join(ROOT, 'dist'), { recursive: true });
  writeFileSync(MARK, now);
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) await bundle();
