/** Loads a module of resources/ts in node: bundled with what it imports of the interface, by the bundler that the interface is built with. */
import { rmSync, writeFileSync } from 'node:fs';
import { dirname, isAbsolute, join, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { rolldown } from 'rolldown';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

let loads = 0;

export async function load(module) {
  const bundle = await rolldown({
    input: join(root, 'resources/ts', module),
    external: (id) => !id.startsWith('.') && !isAbsolute(id),
  });
  const { output } = await bundle.generate({ format: 'esm', codeSplitting: false });
  // Within the project, where packages are found.
  const file = join(root, 'storage', `module-${process.pid}-${loads++}.mjs`);
  writeFileSync(file, output[0].code);
  try {
    return await import(pathToFileURL(file));
  } finally {
    rmSync(file);
  }
}
