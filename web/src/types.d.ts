/** Tells one form of the program's records from another. */
declare const __TYPES__: string;

/** What Go's own tools put beside a module: it runs one. */
declare module '*/wasm_exec.js';
declare class Go {
  importObject: WebAssembly.Imports;
  run(instance: WebAssembly.Instance): Promise<void>;
}

/** What the core leaves behind when it runs, and what it calls when it is ready: see cmd/core. */
declare function oldBurrow(path: string, body: string, tell: (line: string) => void, done: (status: number, answer: string) => void): void;
// eslint-disable-next-line no-var -- what is global is one
declare var ready: () => void;
