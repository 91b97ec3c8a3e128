import { answerMs, longMs } from './pace';
import { reached } from './reach';
import type { Problem } from './types.gen';

/** The program said no: what was wrong, field by field. The same request would be refused again. */
export class Refused extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

/** The program answered that it could not do it. */
export class Failed extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

/** The program could not be reached; the same request may be sent again. */
export class Unreachable extends Error {
  constructor() {
    super('The program does not answer.');
  }
}

/** What goes with a write beside its body. */
export interface Stamp {
  mutation: string;
  file: string;
  deviceAt: string;
  offsetMs: number | null;
}

function headersOf(body: unknown, stamp: Stamp | undefined): Record<string, string> {
  const headers: Record<string, string> = {
    'Content-Type': body instanceof Blob ? body.type || 'application/octet-stream' : 'application/json',
  };
  if (!stamp) return headers;
  headers.Mutation = stamp.mutation;
  headers['Device-Time'] = stamp.deviceAt;
  if (stamp.file !== '') headers.File = stamp.file;
  if (stamp.offsetMs !== null) headers['Clock-Offset'] = String(stamp.offsetMs);
  return headers;
}

/** A gateway that has nobody behind it. */
const nobody = [502, 503, 504];

const unsaid = (status: number): Problem => ({
  title: 'Something went wrong',
  status,
  detail: 'The program could not do this, and did not say why.',
});

/** Sends one request and gives its JSON. Throws Refused, Failed or Unreachable. */
export async function call<T>(method: string, path: string, body?: unknown, stamp?: Stamp, leave?: AbortSignal): Promise<T> {
  let response: Response;
  let answer: unknown;
  try {
    response = await fetch('/api' + path, {
      method,
      headers: headersOf(body, stamp),
      signal: AbortSignal.any([AbortSignal.timeout(body instanceof Blob ? longMs : answerMs), ...(leave ? [leave] : [])]),
      body: body === undefined ? null : body instanceof Blob ? body : JSON.stringify(body),
    });
    if (nobody.includes(response.status)) throw new Unreachable();
    const text = await response.text();
    reached(true);
    answer = JSON.parse(text);
  } catch (error) {
    if (leave?.aborted) throw error; // nobody waits for it any more
    if (error instanceof SyntaxError) throw new Failed(unsaid(0));
    reached(false);
    throw new Unreachable();
  }
  if (response.ok) return answer as T;
  if (response.status >= 500) throw new Failed(answer as Problem);
  throw new Refused(answer as Problem);
}

export const get = <T>(path: string) => call<T>('GET', path);
export const ask = <T>(path: string, body: unknown, leave?: AbortSignal) => call<T>('POST', path, body, undefined, leave);

/**
 * Asks for an answer that comes line by line, and tells each as it comes, until the last or until the signal ends it. Throws Refused,
 * Failed or Unreachable; what was told by then stands.
 */
export async function follow(path: string, body: unknown, signal: AbortSignal, tell: (line: unknown) => void): Promise<void> {
  let response: Response;
  try {
    response = await fetch('/api' + path, { method: 'POST', headers: headersOf(body, undefined), signal, body: JSON.stringify(body) });
  } catch {
    throw new Unreachable();
  }
  if (nobody.includes(response.status)) throw new Unreachable();
  if (!response.ok || !response.body) {
    const problem = (await response.json().catch(() => unsaid(response.status))) as Problem;
    throw response.status < 500 ? new Refused(problem) : new Failed(problem);
  }
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
