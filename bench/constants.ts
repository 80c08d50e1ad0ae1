/**
 * `npm run bench:constants`: every number that core decides by, at half and at double of what it is, and which figures of
 * constants/probes.ts that moves. Writes docs/constants.md. Names as arguments try only files whose path has one of them, and print.
 */
import { execFile } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildSync } from 'esbuild';
import { copyTransforms, FOR_NODE } from '../scripts/bundle.mjs';

const ROOT = join(import.meta.dirname, '..');
const CORE = join(ROOT, 'core', 'src');
/** A variant that takes longer than this does not end. */
const LIMIT_MS = 180_000;
/** A figure that moves by less than this share of itself has hardly moved. */
const HARDLY = 0.02;
const SOURCES =
  /source|measured|simulat|set so that|welch|bonferroni|common practice|ISO|standard|handbook|bench:|figures\.md|from memory|journal|19\d\d|20\d\d/i;
const MADE = /weights|kernel-module/;

/** What the numbers of a folder are tried on; nothing for those whose files and formats decide nothing of how one plays. */
const PROBES_OF: Record<string, readonly string[]> = {
  signal: ['hearing'],
  listen: ['hearing'],
  align: ['hearing', 'judged'],
  measure: ['judged', 'hearing'],
  time: ['judged'],
  verdict: ['judged', 'strategies'],
  across: ['findings'],
  beats: ['beats'],
  stats: ['judged', 'findings'],
  curve: ['curves', 'planning'],
  strategies: ['strategies'],
  session: ['planning'],
  plan: ['planning', 'strategies'],
};

interface Constant {
  file: string;
  name: string;
  value: number;
  comment: string;
}
type Figures = Record<string, Record<string, number | null>>;

/** The numbers that stand at the head of a file with a name, each with the comment above it or above its group. */
const constantsOf = (file: string): Constant[] => {
  const found: Constant[] = [];
  let comment = '';
  for (const block of readFileSync(join(CORE, file), 'utf8').split(/\n(?=\n|\/\*\*|\/\/|(?:export )?const )/)) {
    if (block.trim() === '' || block.startsWith('\n')) comment = '';
    const text = block.trim();
    if (/^(\/\*\*|\/\/)/.test(text))
      comment = text
        .replace(/^\/\*\*|\*\/|^\s*\*\s?|^\/\/ ?/gm, '')
        .replace(/\s+/g, ' ')
        .trim();
    const [, name, value] =
      /^(?:export )?const ([A-Z][A-Z0-9_]*)(?:: number)? = (-?[\d._e]+(?: \/ [\d.]+)?|0x[\da-f_]+);$/m.exec(text) ?? [];
    if (name && value) {
      const [over, under = '1'] = value.replaceAll('_', '').split(' / ');
      found.push({ file, name, value: Number(over) / Number(under), comment });
    }
  }
  return found;
};

const changed = (value: number, times: number): number =>
  Number.isInteger(value) && Math.abs(value) < 100
    ? Math.sign(value) * Math.max(1, Math.round(Math.abs(value) * times))
    : value * times;

const folder = mkdtempSync(join(tmpdir(), 'isochron-constants-'));
const bundlePath = join(folder, 'probes.mjs');
buildSync({
  ...FOR_NODE,
  absWorkingDir: ROOT,
  entryPoints: ['bench/constants/probes.ts'],
  outfile: bundlePath,
});
copyTransforms(folder);
const bundle = readFileSync(bundlePath, 'utf8');

/** The bundle with another value of a constant; null where it has none of it. */
const variant = ({ file, name }: Constant, value: number): string | null => {
  const from = bundle.indexOf(`\n// core/src/${file}\n`);
  if (from < 0) return null;
  const end = bundle.indexOf('\n// ', from + 5);
  const part = bundle.slice(from, end);
  const set = part.replace(new RegExp(`(var ${name}\\d* = )[^;]+;`), `$1${value};`);
  return set === part ? null : bundle.slice(0, from) + set + bundle.slice(end);
};

let written = 0;
const figuresOf = (code: string, probes: readonly string[] = []): Promise<Figures | string> => {
  written += 1;
  const path = join(folder, `probes-${written}.mjs`);
  writeFileSync(path, code);
  return new Promise((resolve) => {
    execFile(process.execPath, [path, ...probes], { timeout: LIMIT_MS, maxBuffer: 1e7 }, (error, out) => {
      rmSync(path);
      if (error) resolve(error.killed ? 'does not end' : 'fails');
      else resolve(JSON.parse(out) as Figures);
    });
  });
};

const rounded = (value: number | null): string => (value === null ? 'none' : String(Number(value.toPrecision(3))));

/** The two figures that moved most, from one value to the other. */
const moved = (base: Figures, now: Figures | string): string => {
  if (typeof now === 'string') return now;
  const all = Object.keys(now).flatMap((probe) =>
    Object.entries(base[probe] ?? {}).map(([name, was]) => {
      const is = now[probe]?.[name] ?? null;
      const size =
        was === null || is === null
          ? was === is
            ? 0
            : 1
          : Math.abs(is - was) / Math.max(Math.abs(was), 1e-9, Math.abs(is) / 10);
      return { text: `${name}: ${rounded(was)} → ${rounded(is)}`, size };
    }),
  );
  const most = all.filter(({ size }) => size >= HARDLY).sort((a, b) => b.size - a.size);
  return most.length === 0
    ? 'hardly anything'
    : most
        .slice(0, 2)
        .map(({ text }) => text)
        .join('; ');
};

const only = process.argv.slice(2);
const constants = readdirSync(CORE, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts') && !file.includes('.test.') && !MADE.test(file))
  .filter((file) => only.length === 0 || only.some((part) => file.includes(part)))
  .sort()
  .flatMap(constantsOf);
const base = (await figuresOf(bundle)) as Figures;
const rows: string[] = [];
const queue = constants.entries();
const work = async () => {
  for (const [k, constant] of queue) {
    const tried = [];
    for (const times of [0.5, 2]) {
      const value = changed(constant.value, times);
      const probes = PROBES_OF[constant.file.split('/')[0] as string];
      const code = value === constant.value || !probes ? null : variant(constant, value);
      tried.push(code ? `${rounded(value)}: ${moved(base, await figuresOf(code, probes))}` : '–');
    }
    const { file, name, value, comment } = constant;
    const origin = SOURCES.test(comment) ? '' : 'Our choice. ';
    rows[k] = `| \`${file}\` | \`${name}\` | ${value} | ${origin}${comment.replaceAll('|', '\\|')} | ${tried.join(' | ')} |`;
    if (process.stderr.isTTY || k % 20 === 0) process.stderr.write(`${k + 1} of ${constants.length}\n`);
  }
};
await Promise.all(Array.from({ length: availableParallelism() }, work));
rmSync(folder, { recursive: true });

const head = `| file | name | value | what it is | at half | at double |\n|---|---|---|---|---|---|`;
const table = `${head}\n${rows.join('\n')}`;
if (only.length > 0) console.log(table);
else
  writeFileSync(
    join(ROOT, 'docs', 'constants.md'),
    `# The numbers that core decides by

Written by \`npm run bench:constants\`: each number that stands in a file of core with a name, what it is (with its source where it has one;
“our choice” where it has none), and which of the figures below move most when it is half and when it is double of what it is. The figures
come from simulated players, learners and sounds (\`bench/constants/probes.ts\`): they tell how much hangs on a number, not whether it is
right. “Hardly anything” means that nothing there moved by ${100 * HARDLY} %; a dash that no figure reaches it, or that it cannot be
halved. What the numbers of listening were measured on is in [figures](figures.md).

## The figures as they are

| of | figure | value |
|---|---|---|
${Object.entries(base)
  .flatMap(([probe, figures]) => Object.entries(figures).map(([name, value]) => `| ${probe} | ${name} | ${rounded(value)} |`))
  .join('\n')}

## The numbers

${table}
`,
  );
