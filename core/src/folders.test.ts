import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';

const ROOT = import.meta.dirname;

/** Which folder imports which, in the sources without their tests. */
const folderImports = (): Map<string, Set<string>> => {
  const imports = new Map<string, Set<string>>();
  for (const folder of readdirSync(ROOT, { withFileTypes: true }).filter((entry) => entry.isDirectory())) {
    const found = new Set<string>();
    for (const name of readdirSync(join(ROOT, folder.name), { recursive: true, encoding: 'utf8' })) {
      if (!name.endsWith('.ts') || name.includes('.test.')) continue;
      const text = readFileSync(join(ROOT, folder.name, name), 'utf8');
      for (const [, other] of text.matchAll(/from '(?:\.\.\/)+([a-z]+)\//g))
        if (other !== folder.name) found.add(other as string);
    }
    imports.set(folder.name, found);
  }
  return imports;
};

it('no folder of core reaches itself through another: dependencies point one way', () => {
  const imports = folderImports();
  const reached = (from: string, seen = new Set<string>()): Set<string> => {
    for (const next of imports.get(from) ?? []) {
      if (seen.has(next)) continue;
      seen.add(next);
      reached(next, seen);
    }
    return seen;
  };
  for (const folder of imports.keys()) expect([...reached(folder)].includes(folder) ? folder : '').toBe('');
  expect([...(imports.get('schema') ?? [])]).toEqual([]);
});
