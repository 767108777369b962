import {
  applyChange,
  Cancelled,
  diffDocuments,
  isEmptyChange,
  type Change,
  type Line,
  type MapDocument,
  type Thread,
} from '@yesca/core';

/** What a question is told while it is worked on. */
export interface AskControl {
  /** Raised when nobody wants the answer any more. A service that takes long looks at it between its steps. */
  readonly signal: { readonly aborted: boolean };
  readonly progress: (done: number) => void;
}

/** What a worker can be asked about the document it mirrors. What it keeps between questions is its own. */
export interface Service<Input, Answer> {
  readonly name: string;
  /** The document is another one, not the last one changed: what was kept of it is of no use. */
  readonly reset?: () => void;
  readonly answer: (doc: MapDocument, input: Input, control: AskControl) => Answer | Promise<Answer>;
}

export type AnyService = Service<never, unknown>;

/** What the page sends: the document as a whole or what changed in it, each making a version, and questions about a version. */
type ToWorker =
  | { readonly do: 'reset'; readonly version: number; readonly doc: MapDocument }
  | { readonly do: 'follow'; readonly version: number; readonly change: Change }
  | {
      readonly do: 'ask';
      readonly id: number;
      readonly version: number;
      readonly service: string;
      readonly input: unknown;
    }
  | { readonly do: 'cancel'; readonly id: number };

/** What comes back. */
type ToPage =
  | { readonly id: number; readonly version: number; readonly result: unknown }
  | { readonly id: number; readonly version: number; readonly progress: number }
  | {
      readonly id: number;
      readonly version: number;
      readonly error: { readonly code?: string; readonly message: string };
    };

/** The worker's end: keeps the document as the page has it, and answers questions about it one after another. */
export function serveMirror(services: readonly AnyService[], line: Line): void {
  let doc: MapDocument | null = null;
  let version = 0;
  const cancelled = new Set<number>();
  const answer = async ({ id, service, input, version: asked }: Extract<ToWorker, { do: 'ask' }>): Promise<void> => {
    const send = (more: { result: unknown } | { progress: number } | { error: { code?: string; message: string } }) =>
      line.send({ id, version: asked, ...more });
    const signal = {
      get aborted() {
        return cancelled.has(id);
      },
    };
    try {
      const found = services.find((s) => s.name === service);
      if (!found) throw new Error(`Nobody answers ${service}.`);
      if (!doc || version !== asked) throw new Error('The document is not the one that was asked about.');
      const result = await found.answer(doc, input as never, { signal, progress: (progress) => send({ progress }) });
      if (!signal.aborted) send({ result });
    } catch (error) {
      const { code, message } = error as { code?: string; message: string };
      if (!signal.aborted) send({ error: { code, message } });
    } finally {
      cancelled.delete(id);
    }
  };
  line.hear((message: ToWorker) => {
    if (message.do === 'ask') return void answer(message);
    if (message.do === 'cancel') return void cancelled.add(message.id);
    version = message.version;
    if (message.do === 'follow') return void (doc = doc && applyChange(doc, message.change, 'after'));
    doc = message.doc;
    for (const service of services) service.reset?.();
  });
}

/** A change without what was before it: half as much to hand over. */
const newSide = (change: Change): Change => ({
  ...change,
  items: change.items.map((item) => ({ in: item.in, id: item.id, after: item.after })),
});

interface Asked {
  readonly ask: Omit<Extract<ToWorker, { do: 'ask' }>, 'do' | 'version'>;
  readonly mapId: string;
  readonly doc: MapDocument;
  readonly give: (result: never) => void;
  readonly fail: (error: Error) => void;
  readonly progress?: (done: number) => void;
}

/** A worker that dies this often is let be. */
const STARTS = 5;
const STOPPED = 'The helper of this page stopped. Reload the page; nothing is lost.';

/**
 * The page's end: brings the worker to the document that is asked about, by what changed where that is enough, and hands out its
 * answers. A worker that dies is replaced and asked again; `onDeath` is told, and whether it was replaced.
 */
export class Mirror {
  private readonly open: () => Thread;
  private readonly onDeath: (replaced: boolean) => void;
  private thread: Thread;
  private starts = 0;
  private version = 0;
  private known: { readonly mapId: string; readonly doc: MapDocument } | null = null;
  private nextId = 0;
  /** It died too often, and is not replaced any more. */
  private over = false;
  private readonly asked = new Map<number, Asked>();

  constructor(open: () => Thread, onDeath: (replaced: boolean) => void = () => undefined) {
    this.open = open;
    this.onDeath = onDeath;
    this.thread = this.begin();
  }

  private begin(): Thread {
    const thread = this.open();
    this.starts++;
    this.known = null;
    thread.hear((answer: ToPage) => this.hear(answer));
    thread.lost(() => {
      if (thread !== this.thread || this.over) return;
      thread.end();
      const again = this.starts < STARTS;
      this.over = !again;
      this.onDeath(again);
      if (!again) return this.failAll(new Error(STOPPED));
      this.thread = this.begin();
      for (const asked of this.asked.values()) this.send(asked);
    });
    return thread;
  }

  private hear(answer: ToPage): void {
    const asked = this.asked.get(answer.id);
    if (!asked) return;
    if ('progress' in answer) return asked.progress?.(answer.progress);
    this.asked.delete(answer.id);
    if ('result' in answer) asked.give(answer.result as never);
    else asked.fail(Object.assign(new Error(answer.error.message), { code: answer.error.code }));
  }

  private send({ ask, mapId, doc }: Asked): void {
    const change = this.known?.mapId === mapId ? diffDocuments(this.known.doc, doc, '') : null;
    if (!change) this.tell({ do: 'reset', version: ++this.version, doc });
    else if (!isEmptyChange(change)) this.tell({ do: 'follow', version: ++this.version, change: newSide(change) });
    this.known = { mapId, doc };
    this.tell({ do: 'ask', version: this.version, ...ask });
  }

  private tell(message: ToWorker): void {
    this.thread.send(message);
  }

  private failAll(error: Error): void {
    for (const { fail } of this.asked.values()) fail(error);
    this.asked.clear();
  }

  /** Asks about a document. Throws what the service throws, with its code, and {@link Cancelled} when the signal is raised. */
  ask<Input, Answer>(
    service: Pick<Service<Input, Answer>, 'name'>,
    about: { readonly mapId: string; readonly doc: MapDocument },
    input: Input,
    control: { readonly signal?: AbortSignal; readonly progress?: (done: number) => void } = {},
  ): Promise<Answer> {
    const id = this.nextId++;
    return new Promise<Answer>((give, fail) => {
      if (control.signal?.aborted) return fail(new Cancelled());
      if (this.over) return fail(new Error(STOPPED));
      const asked: Asked = {
        ask: { id, service: service.name, input },
        ...about,
        give,
        fail,
        progress: control.progress,
      };
      this.asked.set(id, asked);
      control.signal?.addEventListener('abort', () => {
        if (!this.asked.delete(id)) return;
        this.tell({ do: 'cancel', id });
        fail(new Cancelled());
      });
      this.send(asked);
    });
  }

  end(): void {
    this.thread.end();
    this.failAll(new Cancelled());
  }
}
