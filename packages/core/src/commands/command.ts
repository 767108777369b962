import type { FaceRef } from '../edit/index.ts';
import type { MapDocument } from '../map/index.ts';
import type { PropLookup } from '../prop/index.ts';
import type { MaterialLookup } from '../surface/index.ts';
import { objectOf, type ArgsOf, type ArgShape, type PickedIds } from './args.ts';

/** What a command made or wants selected, as data. */
export interface Made extends PickedIds {
  readonly faces?: readonly FaceRef[];
}

export interface Outcome {
  readonly doc: MapDocument;
  /** Absent: the selection stays as it is. */
  readonly made?: Made;
  /** Something that a person should be told, as a sentence. */
  readonly said?: string;
  /** Something that a gesture may want to say while it goes on, by a stable name. */
  readonly note?: 'concave';
}

/** What commands may ask besides the document. */
export interface CommandContext {
  readonly materials: MaterialLookup;
  /** Absent: none are known. */
  readonly props?: PropLookup;
}

/** Something that can be done to a document: all it needs are the arguments, which are plain data. */
export interface Command<A> {
  /** What undo calls it. */
  readonly label: string | ((args: A) => string);
  readonly args: ArgShape;
  readonly schema: ReturnType<typeof objectOf>;
  readonly apply: (doc: MapDocument, args: A, context: CommandContext) => MapDocument | Outcome;
}

export const command = <S extends ArgShape>(
  label: Command<ArgsOf<S>>['label'],
  args: S,
  apply: Command<ArgsOf<S>>['apply'],
): Command<ArgsOf<S>> => ({ label, args, schema: objectOf(args), apply });

/** An outcome that selects brushes. */
export const selecting = (out: { doc: MapDocument; brushes: Iterable<string>; sliver?: boolean }): Outcome => ({
  doc: out.doc,
  made: { brushes: [...out.brushes] },
  ...(out.sliver ? { said: 'Pieces too thin for a brush were left out.' } : {}),
});
