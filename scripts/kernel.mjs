import asc from 'assemblyscript/asc';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './console.mjs';

const BYTES = join(ROOT, 'core/src/trace/kernel-bytes.ts');

/** Builds the kernel from its source: the module that holds its bytes, as text. */
async function kernelBytes() {
  mkdirSync(join(ROOT, 'var'), { recursive: true });
  const out = join(ROOT, `var/kernel-${process.pid}.wasm`);
  const { error, stderr } = await asc.main([
    'core/kernel/kernel-state.ts',
    'core/kernel/planes.ts',
    'core/kernel/walk-starts.ts',
    'core/kernel/nearest.ts',
    'core/kernel/mask-kernel.ts',
    'core/kernel/tree-builder.ts',
    ...['--outFile', out, '-O3', '--converge', '--noAssert', '--runtime', 'stub', '--enable', 'simd'],
    ...['--importMemory', '--use', 'abort=', '--memoryBase', '1024', '--baseDir', ROOT],
  ]);
  if (error) throw new Error(`The kernel could not be built.\n${stderr.toString()}`);
  const base64 = readFileSync(out).toString('base64');
  rmSync(out);
  return `/** The kernel of core/kernel as WebAssembly, base64. Written by \`npm run kernel\`; a test builds it again and compares. */
// prettier-ignore
export const KERNEL_BYTES =
  '${base64.match(/.{1,100}/g).join("' +\n  '")}';
`;
}

const text = await kernelBytes();
if (process.argv.includes('--print')) process.stdout.write(text);
else writeFileSync(BYTES, text);
