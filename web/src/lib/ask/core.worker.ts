import '../../../core/wasm_exec.js';

/** A question: which, under which path, with which body; the first message is the module itself. */
export interface Asked {
  n: number;
  path: string;
  body: string;
}

/** What it comes to: a line of an answer that comes line by line, or the whole of it with its status and how much the core takes up then. */
export type Said = { n: number; line: string } | { n: number; status: number; answer: string; bytes: number };

const say = (said: Said) => postMessage(said);
let running: Promise<void> | undefined;
let memory: WebAssembly.Memory;

async function run(module: WebAssembly.Module): Promise<void> {
  const go = new Go();
  const begun = new Promise<void>((resolve) => (globalThis.ready = resolve));
  const instance = await WebAssembly.instantiate(module, go.importObject);
  memory = instance.exports.mem as WebAssembly.Memory;
  // What ends it is a fault of its own: the page is told, and begins another.
  void go.run(instance).then(() => reportError(new Error('the core has ended')));
  return begun;
}

onmessage = async ({ data }: MessageEvent<WebAssembly.Module | Asked>) => {
  if (data instanceof WebAssembly.Module) {
    running = run(data);
    return;
  }
  const { n, path, body } = data;
  try {
    await running;
    oldBurrow(
      path,
      body,
      (line) => say({ n, line }),
      (status, answer) => say({ n, status, answer, bytes: memory.buffer.byteLength }),
    );
  } catch (error) {
    reportError(error);
  }
};
