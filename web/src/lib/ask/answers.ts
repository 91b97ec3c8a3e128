import type { Problem } from '../types.gen';

/** How what was asked for was not answered. */

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
