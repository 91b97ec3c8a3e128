import wasm from '../../../core/core.wasm?url';
import { Failed, Refused, Unreachable } from './answers';
import type { Asked, Said } from './core.worker';
import { slowPaths } from '../lists.gen';
import type { Problem } from '../types.gen';
import { among } from '../words/words';

/** The module is fetched and made ready once; what could not be fetched is fetched again when it is wanted next. */
let module: Promise<WebAssembly.Module> | undefined;

function theModule(): Promise<WebAssembly.Module> {
  const compiled = async () => WebAssembly.compileStreaming(fetch(wasm));
  module ??= compiled().catch(() => {
    module = undefined;
    throw new Unreachable();
  });
  return module;
}

/** Has it kept in this browser before it is wanted: the service worker keeps what is fetched, and lets go of the one from before. */
export async function prepare(): Promise<void> {
  if (!('serviceWorker' in navigator)) return;
  await navigator.serviceWorker.ready;
  if (!navigator.serviceWorker.controller)
    await new Promise((resolve) => navigator.serviceWorker.addEventListener('controllerchange', resolve, { once: true }));
  if (!(await caches.match(wasm))) await fetch(wasm);
}

interface Waits {
  asked: Asked;
  tell: (line: unknown) => void;
  done: (answer: unknown) => void;
  fail: (error: Error) => void;
  /** Whether it is not asked again when its worker dies: it was already, or some of its answer was told. */
  last: boolean;
}

/** One worker with the core in it. It answers one question after the other; who leaves ends it, and the others are asked anew. */
class Core {
  private worker: Worker | null = null;
  /** How many workers it has had: a new one holds nothing. */
  born = 0;
  /** How much its memory takes up. */
  bytes = 0;
  private readonly waits = new Map<number, Waits>();
  private n = 0;

  ask(path: string, body: unknown, tell: (line: unknown) => void = () => undefined, leave?: AbortSignal): Promise<unknown> {
    return new Promise((done, fail) => {
      const n = ++this.n;
      const one = { asked: { n, path, body: body === undefined ? '' : JSON.stringify(body) }, tell, done, fail, last: false };
      this.waits.set(n, one);
      leave?.addEventListener('abort', () => this.leave(n, leave.reason as Error));
      // At once where it can be: a page that is painted first keeps a hand waiting.
      if (this.worker) this.worker.postMessage(one.asked);
      else void this.send([one]);
    });
  }

  private async send(these: Waits[]): Promise<void> {
    try {
      const module = await theModule();
      const worker = (this.worker ??= this.begin(module));
      for (const one of these) if (this.waits.has(one.asked.n)) worker.postMessage(one.asked);
    } catch (error) {
      for (const one of these) this.end(one.asked.n)?.fail(error as Error);
    }
  }

  private begin(module: WebAssembly.Module): Worker {
    this.born++;
    const worker = new Worker(new URL('./core.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<Said>) => this.hear(data);
    worker.onerror = () => {
      this.worker = null;
      worker.terminate();
      for (const one of this.waits.values()) {
        if (one.last) this.end(one.asked.n)?.fail(new Unreachable());
        one.last = true;
      }
      this.sendAgain();
    };
    worker.postMessage(module);
    return worker;
  }

  private end(n: number): Waits | undefined {
    const one = this.waits.get(n);
    this.waits.delete(n);
    return one;
  }

  private hear(said: Said): void {
    if ('line' in said) {
      const one = this.waits.get(said.n);
      if (one) one.last = true;
      one?.tell(JSON.parse(said.line));
      return;
    }
    const one = this.end(said.n);
    const answer: unknown = JSON.parse(said.answer);
    this.bytes = said.bytes;
    if (said.status === 200) one?.done(answer);
    else one?.fail(said.status < 500 ? new Refused(answer as Problem) : new Failed(answer as Problem));
  }

  private leave(n: number, reason: Error): void {
    const one = this.end(n);
    if (!one) return;
    one.fail(reason);
    // What computes cannot be spoken to: it is ended, and what else was asked of it is asked of another.
    this.close();
    this.sendAgain();
  }

  close(): void {
    this.worker?.terminate();
    this.worker = null;
  }

  private sendAgain(): void {
    if (this.waits.size > 0) void this.send([...this.waits.values()]);
  }
}

/** What holds nothing, and follows the hand. */
export const benchCore = new Core();
/** What holds the season that this browser took along. */
export const pageCore = new Core();

let warming: Promise<void> | undefined;
let warm = false;

/** Whether the core answers here without being waited for; it is made ready when that is asked first. */
export function ready(): boolean {
  warming ??= benchCore.ask('/kinds', undefined).then(
    () => void (warm = true),
    () => void (warming = undefined),
  );
  return warm;
}

/**
 * Asks the core in this browser, which knows only what it is told; what takes seconds has a worker of its own, which ends with it. Throws
 * Refused, Failed, or Unreachable where it is not here.
 */
export async function askHere(
  path: string,
  body: unknown,
  leave?: AbortSignal,
  tell: (line: unknown) => void = () => undefined,
): Promise<unknown> {
  if (!among(slowPaths, path)) return benchCore.ask(path, body, tell, leave);
  const own = new Core();
  try {
    return await own.ask(path, body, tell, leave);
  } finally {
    own.close();
  }
}
