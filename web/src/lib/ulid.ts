const letters = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';

/** A new ULID: 48 bits of time and 80 random bits. Ids are made here, so that nothing needs the server to exist. */
export function ulid(now = Date.now()): string {
  let time = '';
  for (let rest = now; time.length < 10; rest = Math.floor(rest / 32)) time = (letters[rest % 32] ?? '0') + time;
  const random = crypto.getRandomValues(new Uint8Array(16));
  return time + Array.from(random, (byte) => letters[byte % 32] ?? '0').join('');
}
