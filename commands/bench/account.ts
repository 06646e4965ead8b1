/** A member of the demo as a program: signed in, asking the studio's own addresses as its pages do. */
export type Account = { email: string; password: string };

/** The session's and the one by which the browser is known again. */
const cookiesOf = ({ headers }: Response): string =>
  headers
    .getSetCookie()
    .map((cookie) => cookie.split(';')[0]!)
    .join('; ');

export async function signedIn(address: string, account: Account): Promise<Record<string, string>> {
  const answer = await fetch(`${address}/api/sign-in`, {
    method: 'POST',
    headers: { Origin: address, 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: account.email, password: account.password }),
  });
  if (!answer.ok) throw new Error(`sign-in was answered with ${answer.status}`);
  return { Origin: address, Cookie: cookiesOf(answer) };
}

/** Asks the studio as a signed-in member: plain objects go as JSON, bytes as they are. */
export type Asking = <T = Record<string, never>>(method: string, where: string, body?: object | Buffer) => Promise<T>;

export const asking =
  (address: string, session: Record<string, string>): Asking =>
  async (method, where, body) => {
    const bytes = Buffer.isBuffer(body);
    const answer = await fetch(`${address}${where}`, {
      method,
      headers: { ...session, ...(bytes ? {} : { 'Content-Type': 'application/json' }) },
      ...(body === undefined ? {} : { body: bytes ? new Uint8Array(body) : JSON.stringify(body) }),
    });
    if (!answer.ok) throw new Error(`${method} ${where} was answered with ${answer.status}`);
    return (await answer.json()) as never;
  };

export type Newcomer = { ask: Asking; session: Record<string, string>; email: string };

/** Somebody with an account of their own, as anybody can have one. */
export async function newcomer(address: string, name: string): Promise<Newcomer> {
  const email = `${name}-${Date.now()}@heath.example`.toLowerCase();
  const answer = await fetch(`${address}/api/sign-up`, {
    method: 'POST',
    headers: { Origin: address, 'Content-Type': 'application/json' },
    body: JSON.stringify({
      name,
      email,
      password: 'a curlew at dusk over peat',
      country: 'GB',
      timeZone: 'Europe/London',
    }),
  });
  if (!answer.ok) throw new Error(`sign-up was answered with ${answer.status}`);
  const session = { Origin: address, Cookie: cookiesOf(answer) };
  return { ask: asking(address, session), session, email };
}
