/** Loads a module of resources/ts in node: it and what it imports are compiled into a folder of their own. */
import { mkdirSync, mkdtempSync, readFileSync, existsSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import ts from 'typescript';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
const source = join(root, 'resources/ts');

export async function load(module) {
  const out = mkdtempSync(join(root, 'storage/modules-'));
  const done = new Set();
  const emit = (file) => {
    const name = relative(source, file).replaceAll('..', 'up');
    const target = join(out, `${name.replace(/\.tsx?$/, '')}.mjs`);
    if (done.has(file)) return target;
    done.add(file);
    mkdirSync(dirname(target), { recursive: true });
    const options = {
      module: 'esnext',
      target: 'es2022',
      jsx: ts.JsxEmit.ReactJSX,
      verbatimModuleSyntax: false,
    };
    const js = file.endsWith('.json')
      ? `export default ${readFileSync(file, 'utf8')}`
      : ts.transpileModule(readFileSync(file, 'utf8'), { compilerOptions: options, fileName: file })
          .outputText;
    const linked = js.replace(/(from\s+|import\s*\(?\s*)(['"])(\.[^'"]+)\2/g, (_, lead, quote, path) => {
      const base = resolve(dirname(file), path);
      const found = ['', '.ts', '.tsx']
        .map((end) => base + end)
        .find((name) => existsSync(name) && /\.(tsx?|json)$/.test(name));
      if (!found) throw new Error(`${file} imports ${path}, which is not there`);
      let link = relative(dirname(target), emit(found));
      if (!link.startsWith('.')) link = `./${link}`;
      return `${lead}${quote}${link}${quote}`;
    });
    writeFileSync(target, linked);
    return target;
  };
  try {
    return await import(pathToFileURL(emit(join(source, module))));
  } finally {
    rmSync(out, { recursive: true, force: true });
  }
}
