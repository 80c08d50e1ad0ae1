/** `npm run build:kernel`: compiles the AssemblyScript kernel into a module that core imports; a test says when it is stale. */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import asc from 'assemblyscript/asc';
import { ROOT } from './setup.mjs';

const FOLDER = join(ROOT, 'core', 'kernel');

/** The compiled kernel in base64. Throws with the compiler's words where it cannot be compiled. */
export const compileKernel = async () => {
  let binary;
  const { error, stderr } = await asc.main(
    ['kernel.ts', '--outFile', 'kernel.wasm', '-O3', '--runtime', 'stub', '--enable', 'simd', '--noAssert'],
    {
      readFile: (name) => (existsSync(join(FOLDER, name)) ? readFileSync(join(FOLDER, name), 'utf8') : null),
      writeFile: (name, contents) => {
        if (name.endsWith('.wasm')) binary = contents;
      },
    },
  );
  if (error) throw new Error(`${error.message}\n${stderr.toString()}`);
  return Buffer.from(binary).toString('base64');
};

if (process.argv[1]?.endsWith('build-kernel.mjs')) {
  const text = `/** Written by \`npm run build:kernel\` from core/kernel/kernel.ts; not to be edited. WebAssembly in base64. */
export const KERNEL_MODULE =
  '${await compileKernel()}';
`;
  writeFileSync(join(ROOT, 'core', 'src', 'signal', 'kernel-module.ts'), text);
}
