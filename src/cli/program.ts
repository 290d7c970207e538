import { Command, CommanderError } from 'commander';
import { serialiseError } from '../core/errors.ts';
import { aroundCommand } from './aroundCommand.ts';
import { gapsCommand } from './gapsCommand.ts';
import { joinCommand } from './joinCommand.ts';
import { markCommand } from './markCommand.ts';
import { stitchCommand } from './stitchCommand.ts';
import { loadCommands } from '../operations/kinds.ts';
import { linesCommand } from './linesCommand.ts';
import { planesCommand } from './planesCommand.ts';
import { runCommand } from './runCommand.ts';
import { stepCommand } from './stepCommand.ts';

/** Exit code for anything that the caller can mend: arguments, files, recipes. */
const REFUSED = 2;
const BROKEN = 1;

/** Runs the command line with these arguments; what went wrong is told in a sentence. Returns the exit code. */
export async function runFingo(args: readonly string[]): Promise<number> {
  try {
    await (await createProgram()).parseAsync(args, { from: 'user' });
    return 0;
  } catch (error) {
    if (error instanceof CommanderError) {
      if (error.exitCode === 0) return 0;
      const sentence = error.message.replace(/^error: /, '').split('\n')[0]!;
      process.stderr.write(`${sentence[0]!.toUpperCase()}${sentence.slice(1)}; --help shows what can be asked.\n`);
      return REFUSED;
    }
    const { code, message } = serialiseError(error);
    process.stderr.write(`${message}\n`);
    return code === 'internal' ? BROKEN : REFUSED;
  }
}

async function createProgram(): Promise<Command> {
  const program = new Command('fingo')
    .description('Recompose photos from the command line. A mask is a greyscale picture of the photo, white = marked.')
    .exitOverride()
    .configureOutput({ outputError: () => undefined });
  const quiet = (command: Command): Command => {
    command.commands.forEach(quiet);
    return command.exitOverride().configureOutput({ outputError: () => undefined });
  };
  const steps = (await loadCommands()).map(({ type, command }) => stepCommand(type, command));
  for (const command of [
    ...steps,
    planesCommand(),
    linesCommand(),
    stitchCommand(),
    gapsCommand(),
    joinCommand(),
    markCommand(),
    aroundCommand(),
    runCommand(),
  ]) {
    program.addCommand(quiet(command));
  }
  return program;
}
