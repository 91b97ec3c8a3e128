import type { Problem } from './types.gen';

/** The server said no: what was wrong, field by field. */
export class Refused extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

/** The server could not be reached, or could not do it now; the same request may be sent again. */
export class Unreachable extends Error {
  constructor() {
    super('The program does not answer.');
  }
}

/** Sends one request and gives its JSON. Throws Refused or Unreachable. */
export async function call<T>(method: string, path: string, body?: unknown, mutation?: string): Promise<T> {
  let response: Response;
  try {
    response = await fetch('/api' + path, {
      method,
      headers: { 'Content-Type': 'application/json', ...(mutation ? { Mutation: mutation } : {}) },
      body: body === undefined ? null : JSON.stringify(body),
    });
  } catch {
    throw new Unreachable();
  }
  if (response.ok) return (await response.json()) as T;
  if (response.status >= 500) throw new Unreachable();
  try {
    throw new Refused((await response.json()) as Problem);
  } catch (error) {
    if (error instanceof Refused) throw error;
    throw new Unreachable();
  }
}

export const get = <T>(path: string) => call<T>('GET', path);
export const ask = <T>(path: string, body: unknown) => call<T>('POST', path, body);
