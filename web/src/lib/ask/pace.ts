/**
 * How long things wait, ms. Tests shorten them by a divisor that they put into this browser; nobody else does.
 */
const divisor = Number(localStorage.getItem('test-pace') ?? 1) || 1;
const wait = (ms: number) => Math.max(1, Math.round(ms / divisor));

/** A change on the bench is sent when the hand has rested this long. */
export const pauseMs = wait(400);
/** What could not be sent is tried again after this. */
export const retryMs = wait(4000);
/** After this a program that was asked what only computes is taken to be silent, and the core here is asked. */
export const silentMs = wait(4000);
/** A page that was opened so long ago rests, and what may be wanted later is fetched. */
export const restsMs = wait(6000);
/** A program that is silent is looked for again after this. */
export const findAgainMs = wait(15_000);
/** What stands on the pages is read anew after this. */
export const rereadMs = wait(60_000);
/** While much is sent at once, what stands on the pages is read anew no oftener. */
export const whileSendingMs = wait(1000);
/** The open season is taken along anew no oftener, and so long after something was taken. */
export const againMs = wait(60_000);
export const takeAlongMs = wait(5000);
/** What was read is kept in this browser at most so often. */
export const keepReadMs = wait(1000);
/** A program that has not answered in this time is taken not to answer; a picture or a file may take longer. */
export const answerMs = wait(20_000);
export const longMs = wait(120_000);
