import { create } from 'zustand';
import {
  applyChange,
  call,
  changesBetween,
  diffDocuments,
  doCommand,
  emptyMap,
  isEmptyChange,
  isRefusal,
  labelOf,
  newId,
  runScript,
  type Call,
  type Change,
  type Leak,
  type MapDocument,
  type Outcome,
  type Finding,
  type Found,
  type ScriptCall,
  type Vec3,
} from '@yesca/core';
import { reportFault } from './fault.tsx';
import type { Overlay } from './overlay.ts';
import { materialFacts, propFacts } from './library.ts';
import { notify, notifyError } from './notify.ts';
import { NOTHING, selectionOf, stillThere, type Selection } from './selection.ts';

/** `stale`: somebody else saved meanwhile; `gone`: somebody deleted the map. In both a person has to choose. */
export type SaveState = 'saved' | 'unsaved' | 'saving' | 'offline' | 'stale' | 'gone';

export type SealingState = 'checking' | Found['sealing'];

export interface Sealing {
  readonly state: SealingState;
  readonly leak: Leak | null;
}

/** An undo step: the commands that were done, what it changed, and what was selected on its other side. */
export interface Step extends Change {
  /** One, or those of a script that was run as one step. Absent of steps that an older version kept. */
  readonly calls?: readonly ScriptCall[];
  readonly selection: Selection;
}

export interface EditorState {
  readonly mapId: string | null;
  readonly projectId: string | null;
  /** The version the server gave, and the document it holds under it: what saves and merges begin at. */
  readonly version: number;
  readonly base: MapDocument;
  readonly doc: MapDocument;
  /** What a gesture would make of the document; drawn in place of it until the gesture ends. */
  readonly draft: MapDocument | null;
  readonly selection: Selection;
  readonly overlay: Overlay;
  readonly undo: readonly Step[];
  readonly redo: readonly Step[];
  readonly save: SaveState;
  readonly sealing: Sealing;
  readonly findings: readonly Finding[];
  /** The leak trail of the live check or of a build's message that is being looked at. */
  readonly trail: readonly Vec3[] | null;

  load: (mapId: string, version: number, doc: MapDocument, projectId?: string) => void;
  /**
   * Does a command as one undoable step and selects what it made; a refused one shows its sentence and changes nothing. The
   * same seed gives what it makes the same ids as its preview. Null when it was not done.
   */
  run: (call: Call, seed?: string) => Outcome | null;
  /** Does the commands of a script as one undoable step; null when one is refused, and then nothing is done. */
  runAll: (calls: readonly ScriptCall[]) => Outcome | null;
  /** Shows what a command would give, without doing it; null shows the document again. Null when it could not be done. */
  preview: (call: Call | null, seed?: string) => Outcome | null;
  undoOne: () => void;
  redoOne: () => void;
  select: (selection: Selection) => void;
  setOverlay: (overlay: Overlay) => void;
  set: (change: Partial<Pick<EditorState, 'save' | 'version' | 'base' | 'sealing' | 'findings' | 'trail'>>) => void;
}

/** More steps than anyone takes back, few enough to keep in memory. */
const UNDO_LIMIT = 500;

/** What an editor holds beside its document when a map is opened: nothing done, nothing known yet. */
const FRESH = {
  draft: null,
  selection: NOTHING,
  overlay: {},
  undo: [],
  redo: [],
  save: 'saved',
  sealing: { state: 'checking', leak: null },
  findings: [],
  trail: null,
} as const satisfies Partial<EditorState>;

/** An edit waits to be saved; where a choice is open it waits for that. */
const afterEdit = (save: SaveState): SaveState => (save === 'stale' || save === 'gone' ? save : 'unsaved');

export const useEditor = create<EditorState>()((set, get) => {
  const step = (towards: 'before' | 'after', from: 'undo' | 'redo', to: 'undo' | 'redo') => () => {
    const taken = get()[from].at(-1);
    if (!taken) return;
    const doc = applyChange(get().doc, taken, towards);
    const { selection } = get();
    set({
      doc,
      draft: null,
      overlay: {},
      [from]: get()[from].slice(0, -1),
      [to]: [...get()[to], { ...taken, selection }],
      // What was selected when the step was made comes back with it.
      selection: stillThere(taken.selection, doc),
      save: afterEdit(get().save),
    } as Partial<EditorState>);
  };
  /** Does something as one undoable step, and selects what it made. What is refused is said, and changes nothing. */
  const commit = <O extends Outcome>(
    label: string,
    act: () => O,
    callsOf: (outcome: O) => readonly ScriptCall[],
    about: Parameters<typeof reportFault>[1],
  ): Outcome | null => {
    const before = get().doc;
    const nothing = { draft: null, overlay: {} };
    let outcome: O;
    try {
      outcome = act();
    } catch (error) {
      if (isRefusal(error)) notifyError(error);
      else reportFault(error, about);
      set(nothing);
      return null;
    }
    const { doc: after, made, said } = outcome;
    if (said) notify(said, `${label} said`);
    const selection = made ? selectionOf(made) : stillThere(get().selection, after);
    const change = diffDocuments(before, after, label);
    if (isEmptyChange(change)) set({ ...nothing, selection });
    else
      set({
        ...nothing,
        doc: after,
        undo: [...get().undo.slice(1 - UNDO_LIMIT), { ...change, calls: callsOf(outcome), selection: get().selection }],
        redo: [],
        selection,
        save: afterEdit(get().save),
      });
    return outcome;
  };
  return {
    mapId: null,
    projectId: null,
    version: 0,
    base: emptyMap('Untitled'),
    doc: emptyMap('Untitled'),
    ...FRESH,

    load: (mapId, version, doc, projectId) =>
      set({ mapId, projectId: projectId ?? null, version, base: doc, doc, ...FRESH }),

    run: (call, seed = newId()) =>
      commit(
        labelOf(call),
        () => doCommand(get().doc, call, { materials: materialFacts, props: propFacts, seed }),
        () => [{ ...call, seed }],
        call,
      ),

    runAll: (calls) =>
      commit(
        `${calls.length} commands`,
        () => runScript(get().doc, calls, { materials: materialFacts, props: propFacts }),
        // What got other ids than the script says is told by what it changed.
        ({ doc, renamed }) => (renamed ? [callTo(doc, `${calls.length} commands`)] : calls),
        { name: 'Run copied commands', args: calls },
      ),

    preview: (call, seed) => {
      if (!call) {
        set({ draft: null });
        return null;
      }
      try {
        const outcome = doCommand(get().doc, call, { materials: materialFacts, props: propFacts, seed, draft: true });
        set({ draft: outcome.doc });
        return outcome;
      } catch (error) {
        // The last possible state stays on screen; committing an impossible one says why.
        if (!isRefusal(error)) reportFault(error, call);
        return null;
      }
    },

    undoOne: step('before', 'undo', 'redo'),
    redoOne: step('after', 'redo', 'undo'),
    select: (selection) => set({ selection }),
    setOverlay: (overlay) => set({ overlay }),
    set: (change) => set(change),
  };
});

/** The command that makes of the document another one that was come by elsewhere: merged, or kept from before. */
export const callTo = (after: MapDocument, label: string): Call =>
  call('map.change', { changes: changesBetween(useEditor.getState().doc, after), label });

/** The document as drawn: with the gesture's effect, if one is going on. */
export const shownDocument = (s: Pick<EditorState, 'doc' | 'draft'>): MapDocument => s.draft ?? s.doc;
