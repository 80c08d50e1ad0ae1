import { measure } from './measure';
import { onsets } from './onsets';
import { Trouble, USAGE } from './usage';

const COMMANDS: Record<string, (args: string[]) => Promise<string>> = { onsets, measure };

const [name = '', ...args] = process.argv.slice(2);
const command = COMMANDS[name];

if (!command) {
  console.error(USAGE);
  process.exitCode = 2;
} else {
  try {
    process.stdout.write(await command(args));
  } catch (error) {
    if (!(error instanceof Trouble)) throw error;
    console.error(`isochron: ${error.message}`);
    process.exitCode = error.exitCode;
  }
}
