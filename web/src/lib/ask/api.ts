import { Failed, Refused, Unreachable } from './answers';
import { answerMs, longMs, silentMs } from './pace';
import { reached, reachNow } from './reach';
import { heardAtDoor, letIn } from './signedin';
import { fileNow, hear, stray, writesOf } from '../kept/standing';
import { askedPaths, pagePaths } from '../lists.gen';
import type { Problem } from '../types.gen';

export { Failed, Refused, Unreachable } from './answers';

/** What goes with a write beside its body. */
export interface Stamp {
  mutation: string;
  file: string;
  deviceAt: string;
  offsetMs: number | null;
}

function headersOf(body: unknown, file: string, stamp: Stamp | undefined): Record<string, string> {
  const headers: Record<string, string> = {
    'Content-Type': body instanceof Blob ? body.type || 'application/octet-stream' : 'application/json',
  };
  if (file !== '') headers.File = file;
  if (!stamp) return headers;
  headers.Mutation = stamp.mutation;
  headers['Device-Time'] = stamp.deviceAt;
  if (stamp.offsetMs !== null) headers['Clock-Offset'] = String(stamp.offsetMs);
  return headers;
}

const unsaid = (status: number): Problem => ({
  title: 'Something went wrong',
  status,
  detail: 'The program could not do this, and did not say why.',
});

/** What asks which file is open is answered for any. */
const whichFile = '/about';

/** What a request is meant for: the file, and how many writes that was known to have taken. */
interface Meant {
  file: string;
  writes: number;
}

function meantFor(path: string, stamp: Stamp | undefined): Meant {
  const file = path === whichFile ? '' : (stamp?.file ?? fileNow());
  return { file, writes: writesOf(file === '' ? fileNow() : file) };
}

const otherFile = 421;

/**
 * Throws Unreachable where it is not the program that answers: something else at its address, or the program with another file open than
 * was asked for. What either of them says is not listened to.
 */
function listen(response: Response, meant: Meant): void {
  if (response.headers.get('Old-Burrow') === null) {
    reached(false);
    throw new Unreachable();
  }
  reached(true);
  const file = response.headers.get('File') ?? '';
  if (meant.file !== '' && ((file !== '' && file !== meant.file) || response.status === otherFile)) {
    stray();
    throw new Unreachable();
  }
  // Of a file that was not known to be open nothing is known to compare it with.
  const writes = Number(response.headers.get('Writes') ?? NaN);
  if (file !== '' && !Number.isNaN(writes)) hear(file, writes, file === (meant.file || fileNow()) ? meant.writes : 0);
}

/** Whoever asked does not wait for it any more. */
const isLeft = (error: unknown): boolean => error instanceof DOMException && error.name === 'AbortError';

async function send(method: string, path: string, body: unknown, stamp: Stamp | undefined, signal: AbortSignal): Promise<Response> {
  const meant = meantFor(path, stamp);
  let response: Response;
  try {
    response = await fetch('/api' + path, {
      method,
      headers: headersOf(body, meant.file, stamp),
      signal,
      body: body === undefined ? null : body instanceof Blob ? body : JSON.stringify(body),
    });
  } catch (error) {
    if (isLeft(error)) throw error;
    reached(false);
    throw new Unreachable();
  }
  listen(response, meant);
  return response;
}

/** A problem, after the door has heard of it: whoever is not let in any more has to be told. */
function heardOf(problem: Problem): Problem {
  heardAtDoor(problem);
  return problem;
}

/** The problem that an answer tells of. */
function refusal(problem: Problem): Refused | Failed {
  return problem.status >= 500 ? new Failed(problem) : new Refused(problem);
}

/** Why something that was asked for was not done, and what that leaves. */
export const reason = (error: unknown, left: string): string =>
  error instanceof Refused || error instanceof Failed ? error.problem.detail : `The program does not answer. ${left}`;

/** What the program answered beside the body. */
export interface Answered<T> {
  answer: T;
  /** How many writes the file has taken by then. */
  writes: number;
}

/** Sends one request and gives what was answered. Throws Refused, Failed or Unreachable. */
export async function exchange<T>(method: string, path: string, body?: unknown, stamp?: Stamp, leave?: AbortSignal): Promise<Answered<T>> {
  const late = AbortSignal.timeout(body instanceof Blob ? longMs : answerMs);
  try {
    const response = await send(method, path, body, stamp, AbortSignal.any([late, ...(leave ? [leave] : [])]));
    const text = await response.text();
    if (!response.ok) throw refusal(heardOf(problemIn(text, response.status)));
    letIn();
    return { answer: JSON.parse(text) as T, writes: Number(response.headers.get('Writes') ?? 0) };
  } catch (error) {
    if (leave?.aborted) leave.throwIfAborted();
    if (error instanceof SyntaxError) throw new Failed(unsaid(0));
    if (error instanceof Refused || error instanceof Failed || error instanceof Unreachable) throw error;
    reached(false); // it broke off
    throw new Unreachable();
  }
}

function problemIn(text: string, status: number): Problem {
  try {
    return { ...(JSON.parse(text) as Problem), status };
  } catch {
    return unsaid(status);
  }
}

/** Whether it only computes: then the core in this browser can answer it too. */
const computes = (path: string): boolean => askedPaths.some((stem) => (stem.endsWith('/') ? path.startsWith(stem) : path === stem));

/** The line that a page asks something of which the core can answer too, from what was taken along; undefined where it cannot. */
function lineOf(path: string): string | undefined {
  const [, line, under] = /^\/lines\/(\w+)([^?]*)/.exec(path) ?? [];
  const found = under !== undefined && pagePaths.some((stem) => (stem.endsWith('/') ? under.startsWith(stem) : under === stem));
  return found ? line : undefined;
}

const whenTaken = new WeakMap<object, string>();

/**
 * Of what was answered here: when that was taken along of which it is answered. The answer itself may be laid into a design, and says nothing
 * of it.
 */
export const takenAtOf = (answer: object): string | undefined => whenTaken.get(answer);

async function here<T>(path: string, body: unknown, leave?: AbortSignal, tell?: (line: unknown) => void): Promise<T> {
  const line = lineOf(path);
  if (line !== undefined) {
    const { answer, takenAt } = await (await import('./taken')).askTaken(line, path, body);
    if (typeof answer === 'object' && answer !== null) whenTaken.set(answer, takenAt);
    return answer as T;
  }
  return (await (await import('./core')).askHere(path, body, leave, tell)) as T;
}

/** Asks the program, and where it is silent the core here. Where the program answers too, what it says stands. */
async function orHere<T>(program: () => Promise<T>, inBrowser: (leave?: AbortSignal) => Promise<T>): Promise<T> {
  if (!reachNow())
    return inBrowser().catch((error: unknown) => (error instanceof Unreachable ? program() : Promise.reject(error as Error)));
  const asked = program();
  const late = new Promise<'late'>((resolve) => window.setTimeout(() => resolve('late'), silentMs));
  try {
    const first = await Promise.race([asked, late]);
    if (first !== 'late') return first;
  } catch (error) {
    if (!(error instanceof Unreachable)) throw error;
    return inBrowser();
  }
  // A program that was only slow is not silent: what is computed here is left when it answers after all.
  const slow = new AbortController();
  asked.then(
    () => slow.abort(),
    () => undefined,
  );
  const own = inBrowser(slow.signal).then((answer) => {
    reached(false);
    return answer;
  });
  return Promise.any([asked, own]).catch((error: unknown) => {
    const errors = (error as AggregateError).errors as Error[];
    throw errors.find((one) => !(one instanceof Unreachable)) ?? new Unreachable();
  });
}

export const call = async <T>(method: string, path: string, body?: unknown, leave?: AbortSignal): Promise<T> => {
  const program = async () => (await exchange<T>(method, path, body, undefined, leave)).answer;
  const inBrowser = (left?: AbortSignal) => here<T>(path, body, AbortSignal.any([leave, left].filter((one) => one !== undefined)));
  const canHere = computes(path) || (method !== 'PUT' && lineOf(path) !== undefined);
  return canHere ? orHere(program, inBrowser) : program();
};

export const get = <T>(path: string) => call<T>('GET', path);
export const ask = <T>(path: string, body: unknown, leave?: AbortSignal) => call<T>('POST', path, body, leave);

let core: typeof import('./core') | undefined;

/** Asks what follows a hand: the core here, for which no network is too far, and the program while the core is not ready. */
export async function askNear<T>(path: string, body: unknown): Promise<T> {
  core ??= await import('./core'); // kept, since to import what is here costs a frame
  if (!core.ready()) return ask<T>(path, body);
  return core.askHere(path, body).catch((error: unknown) => {
    if (!(error instanceof Unreachable)) throw error;
    return ask<T>(path, body);
  }) as Promise<T>;
}

async function followProgram(path: string, body: unknown, signal: AbortSignal, tell: (line: unknown) => void): Promise<void> {
  const response = await send('POST', path, body, undefined, signal);
  if (!response.ok || !response.body) throw refusal(problemIn(await response.text().catch(() => ''), response.status));
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { value, done } = await reader.read().catch(() => {
      throw new Unreachable();
    });
    if (done) return;
    const lines = (rest + value).split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) tell(JSON.parse(line));
  }
}

/**
 * Asks for an answer that comes line by line, and tells each as it comes, until the last or until the signal ends it. Throws Refused,
 * Failed or Unreachable; what was told by then stands.
 */
export async function follow(path: string, body: unknown, signal: AbortSignal, tell: (line: unknown) => void): Promise<void> {
  if (!computes(path)) {
    await followProgram(path, body, signal, tell);
    return;
  }
  let lines = 0;
  const counted = (line: unknown) => {
    lines++;
    tell(line);
  };
  try {
    if (reachNow()) {
      await followProgram(path, body, signal, counted);
      return;
    }
  } catch (error) {
    if (!(error instanceof Unreachable) || lines > 0 || signal.aborted) throw error;
  }
  await here(path, body, signal, tell);
}
