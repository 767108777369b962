import { EditError } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import type { CommandContext, Made } from './command.ts';
import { COMMANDS, doCommand, isRefusal, type Call } from './table.ts';

export const SCRIPT_FORMAT = 'yesca-commands';
const SCRIPT_VERSION = 1;
const MOST_COMMANDS = 10_000;

/** A command as a script holds it, with the seed its new ids follow from, so that later commands can name them. */
export type ScriptCall = Call & { readonly seed?: string };

/** Commands as a file: one a line, so that people can read, change and compare them. */
export function writeScript(commands: readonly ScriptCall[]): string {
  const lines = commands.map((c) =>
    JSON.stringify({ name: c.name, args: c.args, ...(c.seed ? { seed: c.seed } : {}) }),
  );
  const list = lines.length ? `[\n${lines.join(',\n')}\n]` : '[]';
  return `{\n"format": "${SCRIPT_FORMAT}",\n"version": ${SCRIPT_VERSION},\n"commands": ${list}\n}\n`;
}

/** Reads a file of commands. Throws {@link EditError} `script.*`; the arguments are looked at when a command is done. */
export function parseScript(text: string): readonly ScriptCall[] {
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    throw new EditError('script.notJson', 'The commands are not complete JSON. Copy them again.');
  }
  const { format, version, commands } = (data ?? {}) as Record<string, unknown>;
  if (format !== SCRIPT_FORMAT || !Array.isArray(commands))
    throw new EditError('script.notCommands', `This is no list of commands: "format" must be "${SCRIPT_FORMAT}".`);
  if (version !== SCRIPT_VERSION)
    throw new EditError(
      'script.version',
      `Commands of version ${String(version)} cannot be read; write version ${SCRIPT_VERSION}.`,
    );
  if (commands.length > MOST_COMMANDS)
    throw new EditError('script.tooMany', `A script has up to ${MOST_COMMANDS} commands. Split it.`);
  return commands.map((c: unknown, i) => {
    const { name, args, seed } = (c ?? {}) as Record<string, unknown>;
    if (typeof name !== 'string' || !Object.hasOwn(COMMANDS, name) || typeof args !== 'object' || args === null)
      throw new EditError(
        'script.command',
        `Command ${i + 1} is ${typeof name === 'string' ? `called ${name}, which` : 'something that'} is no command with arguments.`,
      );
    if (seed !== undefined && (typeof seed !== 'string' || seed.length > 64))
      throw new EditError('script.command', `Command ${i + 1}: a seed is a text of up to 64 characters.`);
    return { name, args, ...(seed === undefined ? {} : { seed }) } as ScriptCall;
  });
}

export interface ScriptOutcome {
  readonly doc: MapDocument;
  /** What the last command that made something made. */
  readonly made?: Made;
  /** Whether something was given another id than the script says: the same commands would then not do the same again. */
  readonly renamed: boolean;
}

/**
 * Does commands one after the other. Where an id that a command made before is taken in this map, another is given, and later
 * commands mean that one: a script works again on the map it was recorded in. Throws {@link EditError} that says which command
 * was refused, with the code of the refusal.
 */
export function runScript(doc: MapDocument, commands: readonly ScriptCall[], context: CommandContext): ScriptOutcome {
  const instead = new Map<string, string>();
  let out: ScriptOutcome = { doc, renamed: false };
  commands.forEach((call, i) => {
    const { name, args, seed = `${i} ${call.name}` } = call;
    try {
      const done = doCommand(out.doc, { name, args: renamed(args, instead) } as Call, { ...context, seed, instead });
      out = { doc: done.doc, made: done.made ?? out.made, renamed: instead.size > 0 };
    } catch (error) {
      if (!isRefusal(error)) throw error;
      throw new EditError(error.code, `Command ${i + 1}, ${name}: ${error.message}`);
    }
  });
  return out;
}

/** Data with other ids in it. */
function renamed(data: unknown, names: ReadonlyMap<string, string>): unknown {
  if (names.size === 0) return data;
  if (typeof data === 'string') return names.get(data) ?? data;
  if (Array.isArray(data)) return data.map((d) => renamed(d, names));
  if (typeof data !== 'object' || data === null) return data;
  return Object.fromEntries(Object.entries(data).map(([key, value]) => [key, renamed(value, names)]));
}
