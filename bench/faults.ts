/**
 * `npm run bench:faults`: a thousand faults injected over every path that writes, each followed by a look for everything that was
 * acknowledged. Needs the right to mount a small disk. `-- --count N` for another number. Prints the table of docs/figures.md.
 */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { createFaultRun, FAULTS, type Fault, type FaultCount } from '../server/src/testing/faults';
import { mountSmallDisk, unmountSmallDisk } from '../server/src/testing/small-disk';

const { values } = parseArgs({ options: { count: { type: 'string', default: '1000' } } });
const COUNT = Number(values.count);
/** Of a hundred faults so many of each kind: kills take a start of the server each. */
const SHARES: Record<Fault, number> = { kill: 25, 'cut upload': 25, clash: 20, 'refused first': 10, 'full disk': 20 };
/** A disk is filled and thrown away with so many faults on it. */
const FAULTS_A_DISK = 50;
const DISK_MB = 96;

const order = (count: number): Fault[] => {
  const hundred = FAULTS.flatMap((fault) => Array.from({ length: SHARES[fault] }, () => fault));
  // Every kind beside every other, in an order that is the same each time.
  return Array.from({ length: count }, (_, k) => hundred[(k * 37) % hundred.length] as Fault);
};

const totals = new Map<Fault, FaultCount>();
const add = (count: FaultCount) => {
  const sum = totals.get(count.fault);
  if (!sum) {
    totals.set(count.fault, { ...count });
    return;
  }
  for (const key of ['injected', 'acknowledged', 'lost', 'half', 'blocked', 'speechless'] as const) sum[key] += count[key];
};

const faults = order(COUNT);
for (let from = 0; from < faults.length; from += FAULTS_A_DISK) {
  const folder = mkdtempSync(join(tmpdir(), 'isochron-faults-'));
  mountSmallDisk(folder, DISK_MB);
  const run = await createFaultRun(folder, from + 1);
  try {
    for (const fault of faults.slice(from, from + FAULTS_A_DISK)) await run.injectOne(fault);
  } finally {
    await run.close();
    for (const count of run.counts()) add(count);
    unmountSmallDisk(folder);
    rmSync(folder, { recursive: true, force: true });
  }
  console.error(`${Math.min(faults.length, from + FAULTS_A_DISK)} of ${faults.length}`);
}
console.log(
  '| fault | injected | writes acknowledged | lost | half | blocked | without a sentence |\n|---|---|---|---|---|---|---|',
);
for (const { fault, injected, acknowledged, lost, half, blocked, speechless } of totals.values())
  console.log(`| ${fault} | ${injected} | ${acknowledged} | ${lost} | ${half} | ${blocked} | ${speechless} |`);
