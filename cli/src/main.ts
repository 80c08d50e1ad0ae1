import { USAGE, UsageError } from './usage';

/** Each command is loaded when it is asked for. */
const COMMANDS = new Map<string, (args: string[]) => Promise<string>>([
  ['onsets', async (args) => (await import('./onsets')).onsets(args)],
  ['measure', async (args) => (await import('./measure')).measure(args)],
  ['assess', async (args) => (await import('./assess')).assess(args)],
  ['convert', async (args) => (await import('./passage')).convert(args)],
  ['passage', async (args) => (await import('./passage')).passage(args)],
  ['methods', async (args) => (await import('./passage')).methods(args)],
  ['drills', async (args) => (await import('./passage')).drills(args)],
  ['strategies', async (args) => (await import('./strategies')).strategies(args)],
  ['report', async (args) => (await import('./in-server')).inServer('report', args)],
  ['backup', async (args) => (await import('./in-server')).inServer('backup', args)],
  ['restore', async (args) => (await import('./in-server')).inServer('restore', args)],
  ['recover', async (args) => (await import('./in-server')).inServer('recover', args)],
]);

const [name = '', ...args] = process.argv.slice(2);
const command = COMMANDS.get(name);

if (!command) {
  console.error(USAGE);
  process.exitCode = 2;
} else {
  try {
    process.stdout.write(await command(args));
  } catch (error) {
    if (!(error instanceof UsageError)) throw error;
    console.error(`isochron: ${error.message}`);
    process.exitCode = error.exitCode;
  }
}
