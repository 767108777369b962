import { BrushError } from '../brush/index.ts';
import { EditError } from '../edit/index.ts';
import { assertReadable, COLLECTIONS, MapFileError, seededIds, withIds, type MapDocument } from '../map/index.ts';
import { argsFlaw, type ArgShape } from './args.ts';
import { brushCommands } from './brush.ts';
import type { Command, CommandContext, Outcome } from './command.ts';
import { faceCommands } from './face.ts';
import { lightCommands } from './light.ts';
import { mapCommands } from './map.ts';
import { pickCommands } from './pick.ts';
import { roomCommands } from './room.ts';
import { thingCommands } from './thing.ts';
import { wireCommands } from './wire.ts';

/** Everything that can be done to a document. Panels, tools, keys, scripts and the command line all call these. */
export const COMMANDS = {
  ...pickCommands,
  ...brushCommands,
  ...roomCommands,
  ...faceCommands,
  ...thingCommands,
  ...lightCommands,
  ...wireCommands,
  ...mapCommands,
};

export type CommandName = keyof typeof COMMANDS;
export type CommandArgs<N extends CommandName> = (typeof COMMANDS)[N] extends Command<infer A> ? A : never;

/** Something to be done, as data. */
export type Call<N extends CommandName = CommandName> = {
  [K in N]: { readonly name: K; readonly args: CommandArgs<K> };
}[N];

export const call = <N extends CommandName>(name: N, args: CommandArgs<N>): Call => ({ name, args }) as unknown as Call;

const specOf = (name: string): Command<never> & { readonly args: ArgShape } => {
  if (!Object.hasOwn(COMMANDS, name))
    throw new EditError('command.unknown', `There is no command called ${name}. docs/commands.md lists them.`);
  return COMMANDS[name as CommandName] as unknown as Command<never>;
};

/** What undo calls a command with its arguments. */
export function labelOf({ name, args }: Call): string {
  const { label } = specOf(name);
  return typeof label === 'string' ? label : label(args as never);
}

/** Whether an error says that something cannot be done, and why; all others are faults of the program. */
export const isRefusal = (error: unknown): error is EditError | BrushError | MapFileError =>
  error instanceof EditError || error instanceof BrushError || error instanceof MapFileError;

export interface CallOptions extends CommandContext {
  /** What new ids follow from: the same seed, document and arguments give the same ids. Absent: random ones. */
  readonly seed?: string;
  /** Filled with the ids that follow from the seed but were taken, and those given instead. */
  readonly instead?: Map<string, string>;
  /** The arguments are known to be right, and the result is only looked at: a gesture asks at every step. */
  readonly draft?: boolean;
}

/**
 * Does a command. Throws {@link EditError}, `BrushError` or `MapFileError` when it is refused, and also when what came out
 * could not be saved; the document given is never changed.
 */
export function doCommand<N extends CommandName>(
  doc: MapDocument,
  { name, args }: Call<N>,
  { materials, props, seed, instead, draft }: CallOptions,
): Outcome {
  const spec = specOf(name);
  const given = withoutMissing(args as object);
  const flaw = draft ? null : argsFlaw(spec.schema, given);
  if (flaw) throw new EditError('command.args', `${name} was called with arguments it does not take. ${flaw}`);
  const apply = () => spec.apply(doc, given as never, { materials, props });
  const result = seed === undefined ? apply() : withIds(freshIds(seed, doc, instead), apply);
  const outcome = 'doc' in result ? result : { doc: result };
  if (!draft) assertReadable(doc, outcome.doc);
  return outcome;
}

/** Arguments that are there but undefined are as if left out: data has no such thing. */
function withoutMissing(args: object): object {
  const entries = Object.entries(args);
  return entries.some(([, v]) => v === undefined)
    ? Object.fromEntries(entries.filter(([, v]) => v !== undefined))
    : args;
}

/** Ids that follow from a seed; for those that a document has already, others. */
function freshIds(seed: string, doc: MapDocument, instead?: Map<string, string>): () => string {
  const [next, other] = [seededIds(seed), seededIds(`${seed} again`)];
  const taken = (id: string): boolean => COLLECTIONS.some((c) => doc[c].has(id));
  return () => {
    const id = next();
    if (!taken(id)) return id;
    let given = other();
    while (taken(given)) given = other();
    instead?.set(id, given);
    return given;
  };
}
