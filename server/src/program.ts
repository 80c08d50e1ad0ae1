/**
 * Where the code of a thread or a process of its own lies: in the bundle, whose parts lie side by side. From its sources, as in
 * tests, the program uses the bundle as well: a thread then needs no compiler.
 *
 * @param name as scripts/bundle.mjs calls it
 */
export const programAt = (name: 'vet-unpacked' | 'reanalyse.worker'): URL =>
  new URL(import.meta.url.endsWith('.ts') ? `../dist/${name}.mjs` : `./${name}.mjs`, import.meta.url);
