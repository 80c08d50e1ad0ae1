/**
 * `npm run test:days`: what depends on the calendar, on every weekday, at 23:59, over both changes of summer time, on 29 February and on
 * 31 December, in Auckland, Kolkata and Los Angeles; and the interface at some of these moments. Takes a quarter of an hour and more;
 * `-- --unit` leaves the interface out.
 */
import { spawnSync } from 'node:child_process';
import { buildWeb } from './build-web.mjs';
import { ROOT, setUp } from './setup.mjs';

const ZONES = ['Pacific/Auckland', 'Asia/Kolkata', 'America/Los_Angeles'];
/** By the clock on the wall. Clocks change in Auckland on 5 April and 27 September 2026, in Los Angeles on 8 March and 1 November. */
const MOMENTS = [
  ...['23', '24', '25', '26', '27', '28', '29'].map((day) => `2026-11-${day} 10:00`),
  '2026-11-29 23:59',
  '2026-03-08 01:58',
  '2026-04-05 02:58',
  '2026-09-27 01:58',
  '2026-11-01 01:58',
  '2028-02-29 23:59',
  '2026-12-31 23:59',
];
const UNIT = [
  'core/src/time',
  'core/src/plan',
  'core/src/session/day',
  'core/src/session/practice-session',
  'server/src/calendar',
  'web/src/stores',
];

/** The moment of a clock on the wall in a zone, by trying. */
const momentOf = (wall, zone) => {
  const format = new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' });
  const near = Date.parse(`${wall.replace(' ', 'T')}:00Z`);
  for (let ahead = -14; ahead <= 14; ahead += 0.5) {
    const at = new Date(near - ahead * 3_600_000);
    if (format.format(at) === wall) return at.toISOString();
  }
  throw new Error(`${wall} does not come in ${zone}.`);
};

const withInterface = !process.argv.includes('--unit');
setUp({ browser: withInterface });
if (withInterface) buildWeb();
let [passed, failed] = [0, 0];
const run = (what, command, args, env) => {
  const { status, stdout, stderr } = spawnSync(command, args, {
    cwd: ROOT,
    encoding: 'utf8',
    env: { ...process.env, ...env },
    maxBuffer: 1e8,
  });
  if (status === 0) passed += 1;
  else failed += 1;
  console.log(`${status === 0 ? 'passed' : 'FAILED'} ${what}`);
  if (status !== 0) console.log(`${stdout}\n${stderr}`.slice(-6000));
};
MOMENTS.forEach((wall, k) => {
  for (const zone of ZONES) {
    const env = { TZ: zone, ISOCHRON_NOW: momentOf(wall, zone) };
    run(`${wall} in ${zone}`, 'npx', ['vitest', 'run', '--reporter=dot', ...UNIT], env);
    // Each moment in one zone, each zone in turn.
    if (withInterface && ZONES[k % ZONES.length] === zone)
      run(`${wall} in ${zone}, the interface`, 'npx', ['playwright', 'test', '-c', 'e2e', '--project', 'days'], env);
  }
});
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
