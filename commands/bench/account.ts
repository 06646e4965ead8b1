/** A member of the demo as a program: signed in, asking the studio's own addresses as its pages do. */
export type Account = { email: string; password: string };

export async function signedIn(address: string, account: Account): Promise<Record<string, string>> {
  const answer = await fetch(`${address}/api/sign-in`, {
    method: 'POST',
    headers: { Origin: address, 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: account.email, password: account.password }),
  });
  if (!answer.ok) throw new Error(`sign-in was answered with ${answer.status}`);
  return { Origin: address, Cookie: answer.headers.get('set-cookie')!.split(';')[0]! };
}
